import { dayText, shortDayText } from '@conch/core/calendar'
import { cautionsOf, type Mix, type MixResult, notesOf, type Recipe } from '@conch/core/formula'
import { currencyOf, type Ingredient, isAcidPowder, SAFETY_DEFERRAL } from '@conch/core/house'
import { dayWords, measuredOf } from '@conch/core/lots'
import { useQuery } from '@tanstack/react-query'
import { type ReactNode, useState } from 'react'
import { Link } from 'react-router'
import { useHouse } from '../../app/house.tsx'
import { useWho } from '../../app/who.ts'
import { Composition } from '../../graphics/Composition.tsx'
import { moneyText } from '../../graphics/format.ts'
import { useLimeJuice } from '../../shelf/useLimeJuice.ts'
import { ReasonDialog } from '../../ui/ReasonDialog.tsx'
import { LotWords, lotsOfQuery } from '../lots/index.ts'
import { RecipeHistory } from './RecipeHistory.tsx'
import { WhereUsed } from './WhereUsed.tsx'

interface MixMarginProps {
  /** As it stands on the sheet. */
  mix: Ingredient
  fresh: MixResult
  shelf: Ingredient[]
  onChange?: ((next: Partial<Ingredient>) => void) | undefined
  /** An earlier recipe, put back on the sheet. */
  onRestore?: ((recipe: Recipe) => void) | undefined
}

/** What comes out of a recipe: composition, figures beside the lot that is poured, and all that hangs on it. */
export function MixMargin({ mix, fresh, shelf, onChange, onRestore }: MixMarginProps) {
  const { book } = useHouse()
  const facts = book.mixes?.[mix.slug]
  const lotIngredient = book.ingredients.find((i) => i.slug === mix.slug)
  return (
    <aside
      aria-label="What comes out"
      className="border-hair max-lg:mt-4 max-lg:border-t max-lg:pt-3 lg:border-l lg:pl-5"
    >
      {!fresh.ok ? (
        <div role="alert" className="border-l-4 border-stop pl-3">
          <h2 className="text-base">This cannot be made</h2>
          <ul>
            {fresh.problems.map((p) => (
              <li key={p.message}>{p.message}</li>
            ))}
          </ul>
        </div>
      ) : (
        <>
          <Composition liquid={fresh.mix.liquid} label={mix.name} />
          <Figures fresh={fresh.mix} lot={facts?.lot ? lotIngredient : undefined} lotBrix={facts?.brix} />
          {facts?.lot && (
            <p className="mt-1 text-right text-sm">
              poured now: <LotWords lot={facts.lot} />
            </p>
          )}
          <EarlierLots slug={mix.slug} />
          <Balance mix={fresh.mix} />
          <Notes mix={mix} fresh={fresh.mix} onChange={onChange} />
        </>
      )}
      <WhereUsed mix={mix} shelf={shelf} yieldMl={fresh.ok ? fresh.mix.volumeMl : undefined} />
      <RecipeHistory slug={mix.slug} shelf={shelf} onRestore={onRestore} />
    </aside>
  )
}

function Row({ label, children, lot }: { label: string; children: ReactNode; lot?: ReactNode }) {
  return (
    <tr className="h-[25px] border-b border-hair/60">
      <th scope="row" className="text-left text-sm font-normal text-soft">
        {label}
      </th>
      <td className="text-right">{children}</td>
      <td className="w-24 pl-3 text-right font-semibold">{lot}</td>
    </tr>
  )
}

function Figures({ fresh, lot, lotBrix }: { fresh: Mix; lot: Ingredient | undefined; lotBrix: number | undefined }) {
  const f = fresh.figures
  const of = (key: 'abvPct' | 'sugarGPer100Ml' | 'acidGPer100Ml' | 'fatGPer100Ml', digits: number) =>
    lot ? (lot.figures[key]?.value ?? 0).toFixed(digits) : undefined
  return (
    <table className="mt-3 w-full" aria-label="Figures">
      <thead>
        <tr className="caption text-right">
          <th />
          <th className="font-normal">by the recipe</th>
          <th className="font-normal">{lot && 'this lot'}</th>
        </tr>
      </thead>
      <tbody>
        <Row label="dissolved" lot={lot && lotBrix !== undefined ? `${lotBrix.toFixed(1)} °Bx` : undefined}>
          {fresh.brix.toFixed(1)} °Bx
        </Row>
        <Row label="sugar, g/100 ml" lot={of('sugarGPer100Ml', 1)}>
          {f.sugarGPer100Ml.toFixed(1)}
        </Row>
        <Row label="acid, g/100 ml" lot={of('acidGPer100Ml', 2)}>
          {f.acidGPer100Ml.toFixed(2)}
        </Row>
        <Row label="strength, % ABV" lot={of('abvPct', 1)}>
          {f.abvPct.toFixed(1)}
        </Row>
        {f.fatGPer100Ml > 0.05 && (
          <Row label="fat, g/100 ml" lot={of('fatGPer100Ml', 1)}>
            {f.fatGPer100Ml.toFixed(1)}
          </Row>
        )}
        <Row label="density, g/ml">{fresh.densityGPerMl.toFixed(3)}</Row>
      </tbody>
    </table>
  )
}

const MOST_EARLIER = 6

/** The lots before, with what the refractometer said: whether the house makes it the same. */
export function EarlierLots({ slug }: { slug: string }) {
  const { today } = useHouse()
  const lots = useQuery(lotsOfQuery(slug, MOST_EARLIER)).data ?? []
  if (lots.length === 0) return null
  return (
    <p className="mt-1 text-right text-sm text-soft">
      {lots.map((l, i) => {
        const brix = measuredOf(l)?.measured.brix
        return (
          <span key={l.id}>
            {i > 0 && ' · '}
            <Link className="hover:underline" to={`/lots/${l.id}`}>
              {shortDayText(l.madeOn, today)}
              {brix !== undefined && ` ${brix} °Bx`}
            </Link>
          </span>
        )
      })}
    </p>
  )
}

function Balance({ mix }: { mix: Mix }) {
  const { book } = useHouse()
  const g = (value: number) => `${Math.round(value)} g`
  const out = [
    mix.strainedG > 0.5 ? `${g(mix.strainedG)} strained out` : '',
    mix.evaporatedG > 0.5 ? `${g(mix.evaporatedG)} boiled off` : '',
    mix.lostG > 0.5 ? `${g(mix.lostG)} lost` : '',
  ].filter(Boolean)
  const currency = currencyOf(book.settings)
  const perLitre = mix.volumeMl > 0 ? (mix.cost.value / mix.volumeMl) * 1000 : 0
  return (
    <div className="mt-3 text-sm">
      <p>
        {g(mix.massInG)} in{out.length > 0 && `, ${out.join(', ')}`} →{' '}
        <b className="font-semibold">
          {g(mix.massG)}, {Math.round(mix.volumeMl)} ml
        </b>
      </p>
      <p>
        costs {moneyText(mix.cost.value, currency)}, {moneyText(perLitre, currency)} a litre
        {mix.cost.unknown.length > 0 && (
          <span className="text-soft"> without {mix.cost.unknown.join(', ')}: no price</span>
        )}
      </p>
    </div>
  )
}

export function Notes({ mix, fresh, onChange }: { mix: Ingredient; fresh: Mix; onChange: MixMarginProps['onChange'] }) {
  const who = useWho()
  const { today } = useHouse()
  const notes = notesOf(mix, fresh)
  const [asked, setAsked] = useState<Ingredient['allergens'][number]>()
  const sayWithout = (allergen: Ingredient['allergens'][number], reason: string) => {
    const said = { allergen, reason, by: who.name, on: today }
    onChange?.({ withoutAllergens: [...(mix.withoutAllergens ?? []), said] })
  }
  return (
    <section aria-label="What follows from it" className="mt-3 border-t border-hair pt-2 text-sm">
      <p>
        keeps {fresh.keeps.days === undefined ? 'nobody has said how long' : dayWords(fresh.keeps.days)}{' '}
        <span className="text-soft">({fresh.keeps.because})</span>
      </p>
      {fresh.allergens.map((a) => (
        <p key={a.allergen} className="text-mind">
          ▲ contains {a.allergen}
          {a.from.length > 0 && <span className="text-soft"> from {a.from.join(' in ')}</span>}
          {onChange && a.from.length > 0 && (
            <button type="button" className="act act-quiet text-sm text-soft" onClick={() => setAsked(a.allergen)}>
              not so …
            </button>
          )}
        </p>
      ))}
      {(mix.withoutAllergens ?? []).map((w) => (
        <p key={w.allergen} className="text-soft">
          said to be without {w.allergen}: {w.reason} ({w.by}, {dayText(w.on)}){' '}
          {onChange && (
            <button
              type="button"
              className="act act-quiet text-sm"
              onClick={() => onChange({ withoutAllergens: mix.withoutAllergens?.filter((x) => x !== w) })}
            >
              take it back
            </button>
          )}
        </p>
      ))}
      <Against mix={mix} fresh={fresh} />
      {notes.map((n) => (
        <p key={n} className="text-mind">
          ▲ {n}
        </p>
      ))}
      {cautionsOf(fresh).map((c) => (
        <p key={c} className="text-mind">
          ▲ {c}
        </p>
      ))}
      {fresh.assumed.length > 0 && <p className="text-soft">· assumed, not measured: {fresh.assumed.join(', ')}</p>}
      <p className="caption mt-1">{SAFETY_DEFERRAL}</p>
      {asked && (
        <ReasonDialog
          title={`${mix.name} is without ${asked}?`}
          lead="What goes in says otherwise. The reason is kept with your name; it is your responsibility."
          main="It is without"
          onClose={() => setAsked(undefined)}
          onReason={(reason) => {
            sayWithout(asked, reason)
            setAsked(undefined)
          }}
        />
      )}
    </section>
  )
}

/** A sharpened or stretched juice beside the sour juice that it replaces. */
function Against({ mix, fresh }: { mix: Ingredient; fresh: Mix }) {
  const lime = useLimeJuice()
  if (!lime || !fresh.parts.some((p) => isAcidPowder(p.ingredient)) || mix.slug === lime.slug) return null
  const of = (l: number, m: number, digits: number) => `${m.toFixed(digits)} against ${l.toFixed(digits)}`
  return (
    <p>
      beside {lime.name}: acid {of(lime.figures.acidGPer100Ml.value, fresh.figures.acidGPer100Ml, 2)}, sugar{' '}
      {of(lime.figures.sugarGPer100Ml.value, fresh.figures.sugarGPer100Ml, 1)} g/100 ml; poured in its place, never
      beside it
    </p>
  )
}
