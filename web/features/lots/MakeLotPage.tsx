import { mayDo } from '@conch/contract'
import {
  type BatchSize,
  createMixer,
  currentLots,
  factorFor,
  fruitFor,
  lotFiguresOf,
  type Mix,
  MOST_ABV_FOR_BRIX_PCT,
  type Recipe,
} from '@conch/core/formula'
import { bySlug, type Ingredient } from '@conch/core/house'
import { useEffect, useState } from 'react'
import { Link, useNavigate, useParams } from 'react-router'
import { toast } from 'sonner'
import { useHouse } from '../../app/house.tsx'
import { readStored, writeStored } from '../../app/stored.ts'
import { useWho } from '../../app/who.ts'
import { devices } from '../../devices/devices.ts'
import { useScaleReading, useTray } from '../../devices/useTray.ts'
import { NumberField } from '../../ui/NumberField.tsx'
import { Failure } from '../../ui/States.tsx'
import { emptyLot, type LotInMaking, offBy, toRequest } from './makeLotState.ts'
import { useLotChanges } from './useLots.ts'

/** Making a lot, with wet hands: one thing after another is weighed, then what came out is measured. */
export function MakeLotPage() {
  const { slug = '' } = useParams()
  const { house, today } = useHouse()
  const ingredient = bySlug(house.ingredients, slug)
  if (!ingredient) return <Failure error={`There is nothing called “${slug}” on the shelf.`} />
  if (!ingredient.recipe) return <MakeSheet key={slug} ingredient={ingredient} mix={undefined} />
  const current = currentLots(house.lots, today)
  const mixer = createMixer(house.ingredients, { lotOf: (s) => lotFiguresOf(current.get(s)) })
  const fresh = mixer.freshMixOf(slug)
  if (!fresh.ok) return <Failure error={`${ingredient.name}: ${fresh.problems[0]?.message}`} />
  return <MakeSheet key={slug} ingredient={ingredient} mix={fresh.mix} />
}

function MakeSheet({ ingredient, mix }: { ingredient: Ingredient; mix: Mix | undefined }) {
  const who = useWho()
  const navigate = useNavigate()
  const { make } = useLotChanges()
  const key = `conch:lot:${ingredient.slug}`
  const first: BatchSize = { to: 'yieldMl', volumeMl: Math.max(1, Math.round(mix?.volumeMl ?? 1000)) }
  const [lot, setLot] = useState<LotInMaking>(() => readStored<LotInMaking>(key) ?? emptyLot(first))
  const [problem, setProblem] = useState<string>()
  const [isBusy, setBusy] = useState(false)
  useEffect(() => writeStored(key, lot), [key, lot])
  const set = (change: Partial<LotInMaking>) => setLot({ ...lot, ...change })
  const size = mix ? factorFor(mix, lot.size) : { ok: true as const, factor: 1 }
  const factor = size.ok ? size.factor : 1
  const keep = async () => {
    setBusy(true)
    setProblem(undefined)
    try {
      const made = await make(toRequest(ingredient.slug, factor, lot))
      writeStored(key, undefined)
      toast(`Lot ${made.id} of ${made.name} is written down.`)
      navigate(`/lots/${made.id}`)
    } catch (error) {
      setProblem(error instanceof Error ? error.message : String(error))
    } finally {
      setBusy(false)
    }
  }
  const isBegun = Object.keys(lot.weighedG).length > 0 || Object.keys(lot.measured).length > 0
  return (
    <div className="mx-auto max-w-3xl px-4 pt-3 pb-10">
      <p className="caption">
        <Link className="underline" to={mix ? `/mixes/${ingredient.slug}` : '/mixes'}>
          {mix ? 'the recipe' : 'all mixes'}
        </Link>
        {isBegun && ' · half made: kept on this device until it is written down'}
      </p>
      <h1 className="mb-3 text-3xl">
        {mix ? 'Make' : 'Press'} {ingredient.name}
      </h1>
      {mix ? (
        <>
          <SizeChoice mix={mix} size={lot.size} onChange={(next) => set({ size: next, weighedG: {} })} />
          {!size.ok && (
            <p role="alert" className="text-stop">
              {size.reason}
            </p>
          )}
          <WeighList mix={mix} factor={factor} lot={lot} onWeigh={(weighedG) => set({ weighedG })} />
          <Steps steps={ingredient.recipe?.steps ?? []} />
        </>
      ) : (
        <Pressing ingredient={ingredient} lot={lot} onChange={set} />
      )}
      <MeasureYield ingredient={ingredient} mix={mix} factor={factor} lot={lot} onChange={set} />
      <label className="mt-3 block">
        <span className="text-sm font-semibold">Note</span>
        <input
          className="field"
          maxLength={500}
          placeholder="cloudy, sweeter than usual, new sugar …"
          value={lot.note}
          onChange={(e) => set({ note: e.target.value })}
        />
      </label>
      {problem && (
        <p role="alert" className="mt-3 border-l-4 border-stop pl-3 text-stop">
          {problem}
        </p>
      )}
      <div className="mt-4 flex flex-wrap justify-end gap-2">
        {isBegun && (
          <button type="button" className="act" onClick={() => setLot(emptyLot(first))}>
            Begin again
          </button>
        )}
        <button
          type="button"
          className="act act-main min-h-12 px-6 text-lg"
          disabled={isBusy || !size.ok || !mayDo(who.role, 'makeLot')}
          title={mayDo(who.role, 'makeLot') ? undefined : 'A manager or a lead makes lots'}
          onClick={keep}
        >
          Write the lot down
        </button>
      </div>
    </div>
  )
}

function SizeChoice({ mix, size, onChange }: { mix: Mix; size: BatchSize; onChange: (size: BatchSize) => void }) {
  const number = (label: string, value: number, unit: string, change: (n: number) => void) => (
    <span className="whitespace-nowrap">
      <NumberField label={label} value={value} low={0.1} high={200_000} step={10} digits={1} onChange={change} /> {unit}
    </span>
  )
  return (
    <p className="mb-3 flex flex-wrap items-baseline gap-x-3 gap-y-1 border-y border-hair py-2">
      <span className="text-soft">so much:</span>
      <select
        aria-label="Size of the batch"
        className="inplace"
        value={size.to}
        onChange={(e) => {
          const to = e.target.value as BatchSize['to']
          const part = mix.parts[0]
          if (to === 'yieldMl') onChange({ to, volumeMl: Math.round(mix.volumeMl) })
          if (to === 'yieldG') onChange({ to, massG: Math.round(mix.massG) })
          if (to === 'drinks') onChange({ to, count: 40, pourMl: 15 })
          if (to === 'left' && part) onChange({ to, ingredient: part.ingredient.slug, massG: Math.round(part.massG) })
        }}
      >
        <option value="yieldMl">to a volume</option>
        <option value="yieldG">to a weight</option>
        <option value="drinks">for a number of drinks</option>
        <option value="left">what is left of one component</option>
      </select>
      {size.to === 'yieldMl' &&
        number('Yield in ml', size.volumeMl, 'ml', (volumeMl) => onChange({ ...size, volumeMl }))}
      {size.to === 'yieldG' && number('Yield in g', size.massG, 'g', (massG) => onChange({ ...size, massG }))}
      {size.to === 'drinks' && (
        <>
          {number('Number of drinks', size.count, 'drinks', (count) => onChange({ ...size, count }))}
          {number('Poured in each', size.pourMl, 'ml each', (pourMl) => onChange({ ...size, pourMl }))}
        </>
      )}
      {size.to === 'left' && (
        <>
          <select
            aria-label="Component that is left"
            className="inplace"
            value={size.ingredient}
            onChange={(e) => onChange({ ...size, ingredient: e.target.value })}
          >
            {mix.parts.map((p) => (
              <option key={p.ingredient.slug} value={p.ingredient.slug}>
                {p.ingredient.name}
              </option>
            ))}
          </select>
          {number('Left in g', size.massG, 'g', (massG) => onChange({ ...size, massG }))}
        </>
      )}
    </p>
  )
}

function WeighList({
  mix,
  factor,
  lot,
  onWeigh,
}: {
  mix: Mix
  factor: number
  lot: LotInMaking
  onWeigh: (weighedG: Record<string, number>) => void
}) {
  const readingG = useScaleReading()
  const next = mix.parts.find((p) => lot.weighedG[p.ingredient.slug] === undefined)?.ingredient.slug
  return (
    <ol aria-label="To weigh">
      {mix.parts.map((p) => {
        const { slug, name } = p.ingredient
        const plannedG = p.massG * factor
        const actualG = lot.weighedG[slug]
        const off = actualG === undefined ? undefined : offBy(plannedG, actualG)
        return (
          <li
            key={slug}
            className={`flex flex-wrap items-center gap-x-3 gap-y-1 border-b border-hair py-1.5 ${slug === next ? 'bg-shoal' : ''}`}
          >
            <span className="w-28 text-right font-display text-2xl">
              {plannedG < 100 ? plannedG.toFixed(1) : Math.round(plannedG)} g
            </span>
            <span className="min-w-40 flex-1 text-lg">{name}</span>
            <span className={`text-sm ${off ? 'text-mind' : 'text-soft'}`}>
              {actualG !== undefined && (
                <>
                  <NumberField
                    label={`Weighed ${name}`}
                    value={actualG}
                    low={0}
                    high={200_000}
                    digits={1}
                    onChange={(g) => onWeigh({ ...lot.weighedG, [slug]: g })}
                  />{' '}
                  g {off ?? 'weighed'}
                </>
              )}
            </span>
            <button
              type="button"
              className={`act min-h-11 ${slug === next ? 'act-main' : ''}`}
              aria-label={`Take ${name} from the scale`}
              onClick={() => {
                if (readingG <= 0) {
                  toast('The scale shows nothing. Put it on the pan, or open the devices (d).')
                  return
                }
                onWeigh({ ...lot.weighedG, [slug]: readingG })
                devices.scale.tare()
              }}
            >
              {readingG > 0 ? `${readingG} g: take it` : 'from the scale'}
            </button>
          </li>
        )
      })}
    </ol>
  )
}

function Steps({ steps }: { steps: NonNullable<Recipe['steps']> }) {
  if (steps.length === 0) return null
  return (
    <ol aria-label="What is done" className="mt-4 list-decimal space-y-1 pl-6 text-lg">
      {steps.map((s) => (
        <li key={s.text}>
          {s.text}
          <span className="text-soft">
            {s.temperatureC !== undefined && `, ${s.temperatureC} °C`}
            {s.minutes !== undefined && `, ${s.minutes} min`}
          </span>
        </li>
      ))}
    </ol>
  )
}

function Pressing({
  ingredient,
  lot,
  onChange,
}: {
  ingredient: Ingredient
  lot: LotInMaking
  onChange: (change: Partial<LotInMaking>) => void
}) {
  const { house } = useHouse()
  const [neededMl, setNeededMl] = useState(1500)
  const each = house.fruitYields[ingredient.slug]
  const need = each && fruitFor(neededMl, each)
  return (
    <div className="border-y border-hair py-3 text-lg">
      <p>
        pressed from{' '}
        <NumberField
          label="Fruit pressed"
          value={lot.fruitCount}
          low={1}
          high={10_000}
          digits={0}
          onChange={(fruitCount) => onChange({ fruitCount: Math.round(fruitCount) })}
        />{' '}
        {ingredient.fruit?.name ?? 'fruit'}s
      </p>
      {each && need && (
        <p className="mt-2 text-sm text-soft">
          For a night of{' '}
          <NumberField
            label="Juice for the night"
            value={neededMl}
            low={10}
            high={100_000}
            step={100}
            digits={0}
            onChange={setNeededMl}
          />{' '}
          ml take <b className="font-semibold text-ink">{need.safe}</b>, so that a poor box still does; {need.mean}{' '}
          would do at {each.mlPerFruit.toFixed(0)} ml each (
          {each.basis === 'measured' ? `${each.pressings} pressings here` : 'assumed: nobody has pressed it here'}).
        </p>
      )}
    </div>
  )
}

function MeasureYield({
  ingredient,
  mix,
  factor,
  lot,
  onChange,
}: {
  ingredient: Ingredient
  mix: Mix | undefined
  factor: number
  lot: LotInMaking
  onChange: (change: Partial<LotInMaking>) => void
}) {
  const tray = useTray()
  const readingG = useScaleReading()
  const { measured } = lot
  const set = (change: LotInMaking['measured']) => onChange({ measured: { ...measured, ...change } })
  const brix = devices.refractometer.readBrix()
  const isStrong = (mix?.figures.abvPct ?? ingredient.figures.abvPct.value) > MOST_ABV_FOR_BRIX_PCT
  const line = 'flex flex-wrap items-center gap-3 border-b border-hair py-1.5'
  return (
    <section aria-label="What came out" className="mt-5">
      <h2 className="border-b border-ink text-lg">What came out</h2>
      {mix ? (
        <p className={line}>
          <span className="w-28 text-right">weight</span>
          <span className="flex-1">
            <NumberField
              label="Yield, weighed"
              value={measured.massG}
              low={1}
              high={200_000}
              digits={1}
              onChange={(massG) => set({ massG })}
            />{' '}
            g <span className="text-sm text-soft">by the recipe {Math.round(mix.massG * factor)} g</span>
          </span>
          <button
            type="button"
            className="act min-h-11"
            aria-label="Take the yield from the scale"
            disabled={readingG <= 0}
            onClick={() => set({ massG: readingG })}
          >
            from the scale
          </button>
        </p>
      ) : (
        <p className={line}>
          <span className="w-28 text-right">volume</span>
          <span className="flex-1">
            <NumberField
              label="Yield in ml"
              value={measured.volumeMl}
              low={1}
              high={200_000}
              step={50}
              digits={0}
              onChange={(volumeMl) => set({ volumeMl })}
            />{' '}
            ml
          </span>
        </p>
      )}
      <p className={line}>
        <span className="w-28 text-right">refractometer</span>
        <span className="flex-1">
          <NumberField
            label="Brix, measured"
            value={measured.brix}
            low={0}
            high={85}
            step={0.5}
            digits={1}
            onChange={(value) => set({ brix: value })}
          />{' '}
          °Bx {mix && <span className="text-sm text-soft">by the recipe {mix.brix.toFixed(1)}</span>}
          {isStrong && measured.brix !== undefined && (
            <span className="block text-sm text-mind">
              ▲ with alcohol in it a refractometer does not read sugar: kept, but not used
            </span>
          )}
        </span>
        <button
          type="button"
          className="act min-h-11"
          aria-label="Read the refractometer"
          disabled={brix === undefined}
          onClick={() => brix !== undefined && set({ brix })}
        >
          read it
        </button>
      </p>
      <p className={line}>
        <span className="w-28 text-right">acid</span>
        <span className="flex-1">
          <NumberField
            label="Acid, titrated"
            value={measured.acidGPer100Ml}
            low={0}
            high={100}
            step={0.1}
            digits={2}
            onChange={(acidGPer100Ml) => set({ acidGPer100Ml })}
          />{' '}
          g/100 ml
        </span>
        <button
          type="button"
          className="act min-h-11"
          aria-label="Read the titration"
          disabled={!tray.acid}
          onClick={() => set(devices.acidMeter.read() ?? {})}
        >
          read it
        </button>
      </p>
    </section>
  )
}
