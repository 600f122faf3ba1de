import { mayDo } from '@conch/contract'
import { bySlug, type ClosedMix as Closed, type Ingredient, PLACES, SAFETY_DEFERRAL } from '@conch/core/house'
import { dayWords } from '@conch/core/lots'
import { Link } from 'react-router'
import { useHouse } from '../../app/house.tsx'
import { useWho } from '../../app/who.ts'
import { ClosedMark } from '../../graphics/ClosedMark.tsx'
import { LotWords } from '../lots/index.ts'
import { MyHalf } from '../sealed/index.ts'
import { WhereUsed } from './WhereUsed.tsx'

/** A sealed mix or blend, for whoever may not open it: what is needed to pour, to weigh and to warn. */
export function ClosedMix({ ingredient, closed }: { ingredient: Ingredient; closed: Closed }) {
  const { house, book } = useHouse()
  const who = useWho()
  const { figures, allergens } = bySlug(book.ingredients, ingredient.slug) ?? ingredient
  const rows: [string, string][] = [
    ['strength', `${figures.abvPct.value.toFixed(0)} % ABV`],
    ['sugar', `${figures.sugarGPer100Ml.value.toFixed(0)} g/100 ml`],
    ['acid', `${figures.acidGPer100Ml.value.toFixed(1)} g/100 ml`],
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
        <MyHalf ingredient={ingredient.slug} />
        <p className="mt-3 max-w-xl text-soft">
          Its figures here are whole, and so is whatever is computed with them; finer ones would tell what is in it. A
          batch is dealt by a manager to two people: each finds half of it here, under letters, for that night.
        </p>
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
          {closed.isAllergenUnsure && (
            <p className="text-mind">▲ an allergen on the shelf was changed since: ask a manager what is in it</p>
          )}
          <p className="caption mt-1">{SAFETY_DEFERRAL}</p>
        </div>
        <WhereUsed mix={ingredient} shelf={house.ingredients} yieldMl={closed.volumeMl || undefined} />
      </aside>
    </div>
  )
}
