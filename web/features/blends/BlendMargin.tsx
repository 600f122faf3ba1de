import type { Mix, MixResult } from '@conch/core/formula'
import type { Ingredient } from '@conch/core/house'
import { currencyOf } from '@conch/core/house'
import { scaleLiquid, standardDrinksOf } from '@conch/core/liquid'
import { colourWord, mixProfiles, type Slot } from '@conch/core/palate'
import { depthIn, distanceTo, SPIRIT_WEIGHTS, targetOf } from '@conch/core/standin'
import { useHouse } from '../../app/house.tsx'
import { moneyText } from '../../graphics/format.ts'
import { StyleLines } from '../../graphics/StyleLines.tsx'
import { NearWords } from '../../shelf/NearWords.tsx'
import { LotWords } from '../lots/index.ts'
import { EarlierLots, Notes, RecipeHistory, WhereUsed } from '../mixes/index.ts'

interface BlendMarginProps {
  /** As it stands on the sheet. */
  blend: Ingredient
  fresh: MixResult
  shelf: Ingredient[]
  /** The pour that cost and standard drinks are told for, ml. */
  pourMl: number
  onChange?: ((next: Partial<Ingredient>) => void) | undefined
}

/** What comes out of a blend: strength, colour, profile beside what it aims at, cost, and all that hangs on it. */
export function BlendMargin({ blend, fresh, shelf, pourMl, onChange }: BlendMarginProps) {
  const { book } = useHouse()
  const lot = book.mixes?.[blend.slug]?.lot
  return (
    <aside
      aria-label="What comes out"
      className="border-hair max-lg:mt-4 max-lg:border-t max-lg:pt-3 lg:border-l lg:pl-5"
    >
      {fresh.ok ? (
        <>
          <Figures mix={fresh.mix} blend={blend} shelf={shelf} pourMl={pourMl} />
          {lot && (
            <p className="mt-1 text-right text-sm">
              poured now: <LotWords lot={lot} />
            </p>
          )}
          <EarlierLots slug={blend.slug} />
          <Aim blend={blend} mix={fresh.mix} onChange={onChange} />
          <Notes mix={blend} fresh={fresh.mix} onChange={onChange} />
        </>
      ) : (
        <div role="alert" className="border-l-4 border-stop pl-3">
          <h2 className="text-base">This cannot be blended</h2>
          <ul>
            {fresh.problems.map((p) => (
              <li key={p.message}>{p.message}</li>
            ))}
          </ul>
        </div>
      )}
      <WhereUsed mix={blend} shelf={shelf} yieldMl={fresh.ok ? fresh.mix.volumeMl : undefined} />
      <RecipeHistory slug={blend.slug} shelf={shelf} onRestore={onChange && ((recipe) => onChange({ recipe }))} />
    </aside>
  )
}

function Figures({ mix, blend, shelf, pourMl }: { mix: Mix; blend: Ingredient; shelf: Ingredient[]; pourMl: number }) {
  const { settings } = useHouse().book
  const { standardDrinkG } = settings
  const currency = currencyOf(settings)
  const perMl = mix.volumeMl > 0 ? mix.cost.value / mix.volumeMl : 0
  const ethanolG = mix.volumeMl > 0 ? (mix.liquid.ethanolG * pourMl) / mix.volumeMl : 0
  const depth = depthIn(blend, { ingredients: shelf })
  const shrinksMl = mix.parts.reduce((sum, p) => sum + p.volumeMl, 0) - mix.volumeMl
  const rows: [string, string][] = [
    ['strength', `${mix.figures.abvPct.toFixed(1)} % ABV`],
    ['colour', depth === undefined ? 'nobody has said' : colourWord(depth)],
    ['sugar', `${mix.figures.sugarGPer100Ml.toFixed(1)} g/100 ml`],
    ['density', `${mix.densityGPerMl.toFixed(3)} g/ml`],
    [
      'cost',
      mix.cost.unknown.length > 0
        ? `no price: ${mix.cost.unknown.join(', ')}`
        : `${moneyText(1000 * perMl, currency)} a litre, ${moneyText(perMl * pourMl, currency)} a pour`,
    ],
    ['a pour', `${standardDrinksOf(ethanolG, standardDrinkG).toFixed(1)} standard drinks`],
    ['shrinks', `${((100 * shrinksMl) / (mix.volumeMl + shrinksMl)).toFixed(2)} % when mixed`],
  ]
  return (
    <dl aria-label="Figures">
      {rows.map(([label, value]) => (
        <div key={label} className="flex min-h-[25px] items-center justify-between gap-3 border-b border-hair/60">
          <dt className="text-sm text-soft">{label}</dt>
          <dd className={`text-right ${label === 'strength' ? 'text-lg font-semibold' : ''}`}>{value}</dd>
        </div>
      ))}
    </dl>
  )
}

/** The profile of the parts together, beside the slot that the blend aims at. */
function Aim({ blend, mix, onChange }: { blend: Ingredient; mix: Mix; onChange: BlendMarginProps['onChange'] }) {
  const { book } = useHouse()
  const { slots = [], profiles = {} } = book
  const profile = mixProfiles(
    mix.parts.map((p) => ({ profile: profiles[p.ingredient.slug] ?? {}, volumeMl: p.volumeMl })),
  )
  const slot = slots.find((s) => s.slug === blend.aimsAt)
  const untasted = mix.parts.filter((p) => !profiles[p.ingredient.slug]).map((p) => p.name)
  return (
    <section aria-label="Profile" className="mt-3 border-t border-hair pt-2">
      <p className="mb-1 flex flex-wrap items-baseline gap-x-2 text-sm">
        <span className="text-soft">aims at</span>
        {onChange ? (
          <select
            aria-label="What it aims at"
            className="inplace"
            value={blend.aimsAt ?? ''}
            onChange={(e) => onChange({ aimsAt: e.target.value || undefined })}
          >
            <option value="">nothing yet</option>
            {slots.map((s) => (
              <option key={s.slug} value={s.slug}>
                {s.name}
              </option>
            ))}
          </select>
        ) : (
          (slot?.name ?? 'nothing')
        )}
        {slot && <Landing slot={slot} mix={mix} profile={profile} />}
      </p>
      <StyleLines series={[{ label: blend.name, profile }]} target={slot?.target} />
      {untasted.length > 0 && <p className="text-sm text-soft">· never tasted: {untasted.join(', ')}</p>}
    </section>
  )
}

function Landing({ slot, mix, profile }: { slot: Slot; mix: Mix; profile: ReturnType<typeof mixProfiles> }) {
  const { book } = useHouse()
  const target = targetOf({ slot }, book)
  const style = Object.fromEntries(Object.entries(profile).map(([axis, r]) => [axis, r.value]))
  const isWhole = Object.keys(target.style).every((axis) => axis in style)
  if (!isWhole || !(mix.volumeMl > 0)) return null
  const perMl = scaleLiquid(mix.liquid, 1 / mix.volumeMl)

  const bottle = { slug: slot.slug, name: slot.name, style, perMl, depth: undefined, pricePerLitre: undefined }
  const plain = { ...target, depth: undefined, pricePerLitre: undefined }
  return <NearWords distance={distanceTo(plain, [{ bottle, volumeMl: 1 }], SPIRIT_WEIGHTS)} />
}
