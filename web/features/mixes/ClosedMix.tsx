import { mayDo } from '@conch/contract'
import {
  bySlug,
  type ClosedMix as Closed,
  currencyOf,
  type Ingredient,
  PLACES,
  SAFETY_DEFERRAL,
} from '@conch/core/house'
import { dayWords } from '@conch/core/lots'
import { Link } from 'react-router'
import { useHouse } from '../../app/house.tsx'
import { useWho } from '../../app/who.ts'
import { ClosedMark } from '../../graphics/ClosedMark.tsx'
import { moneyText } from '../../graphics/format.ts'
import { LotWords } from '../lots/index.ts'
import { MyHalf } from '../sealed/index.ts'
import { WhereUsed } from './WhereUsed.tsx'

/** A sealed mix or blend, for whoever may not open it: what is needed to pour, to weigh and to warn. */
export function ClosedMix({ ingredient, closed }: { ingredient: Ingredient; closed: Closed }) {
  const { house, book } = useHouse()
  const who = useWho()
  const { figures, price, allergens } = bySlug(book.ingredients, ingredient.slug) ?? ingredient
  const currency = currencyOf(house.settings)
  const rows: [string, string][] = [
    ['strength', `${figures.abvPct.value.toFixed(1)} % ABV`],
    ['sugar', `${figures.sugarGPer100Ml.value.toFixed(1)} g/100 ml`],
    ['acid', `${figures.acidGPer100Ml.value.toFixed(2)} g/100 ml`],
    ['cost', price === undefined ? 'not known' : `about ${moneyText(price, currency).replace(/[.,]00$/, '')} a litre`],
    ['keeps', closed.keepsDays === null ? 'nobody has said how long' : dayWords(closed.keepsDays)],
    ['kept', PLACES[ingredient.storedIn]],
  ]
  return (
    <div className="grid gap-x-6 px-4 pt-3 pb-8 lg:grid-cols-[minmax(0,1fr)_25rem]">
      <div className="min-w-0">
        <header className="mb-3 flex flex-wrap items-baseline gap-x-3 gap-y-1">
          <h1 className="min-w-0 flex-1 text-3xl max-sm:basis-full break-words">{ingredient.name}</h1>
          {mayDo(who.role, 'makeLot') && (
            <Link to={`/mixes/${ingredient.slug}/make`} className="act act-main">
              Make a lot
            </Link>
          )}
        </header>
        <p className="mb-4 flex items-center gap-2 text-lg">
          <ClosedMark /> Sealed: what it is made of is for managers. It can be poured, weighed and sold.
        </p>
        <h2 className="border-b border-ink text-lg">To weigh, for {closed.volumeMl} ml</h2>
        <ol>
          {closed.prep.map((p) => (
            <li key={p.ingredient} className="flex gap-4 border-b border-hair/60 py-1.5 text-lg">
              <span className="w-8 font-display font-semibold">{p.name}</span>
              <span>{p.massG.toFixed(1)} g</span>
            </li>
          ))}
        </ol>
        <p className="caption mt-1">A manager puts the letters on the bottles.</p>
        <MyHalf ingredient={ingredient.slug} />
      </div>
      <aside
        aria-label="What is known of it"
        className="border-hair max-lg:mt-4 max-lg:border-t max-lg:pt-3 lg:border-l lg:pl-5"
      >
        <dl>
          {rows.map(([label, value]) => (
            <div key={label} className="flex h-[27px] items-center justify-between border-b border-hair/60">
              <dt className="text-sm text-soft">{label}</dt>
              <dd>{value}</dd>
            </div>
          ))}
        </dl>
        <p className="mt-2 text-right text-sm">
          poured now: <LotWords lot={book.mixes?.[ingredient.slug]?.lot} />
        </p>
        <div className="mt-3 text-sm">
          {allergens.map((a) => (
            <p key={a} className="text-mind">
              ▲ contains {a}
            </p>
          ))}
          {closed.mustStir && <p className="text-mind">▲ stir before every pour</p>}
          {closed.stale && <p className="text-mind">▲ something in it should not wait: ask a manager</p>}
          <p className="caption mt-1">{SAFETY_DEFERRAL}</p>
        </div>
        <WhereUsed mix={ingredient} shelf={house.ingredients} yieldMl={closed.volumeMl || undefined} />
      </aside>
    </div>
  )
}
