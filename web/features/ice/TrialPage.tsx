import { mayDo } from '@conch/contract'
import {
  ICE_KINDS,
  type IceKind,
  METHODS,
  predictTrial,
  type TrialDocument,
  trialIceOf,
  unaccountedG,
} from '@conch/core/cold'
import { bySlug, type HouseBook } from '@conch/core/house'
import { writeTrial } from '@conch/core/means'
import { useQuery } from '@tanstack/react-query'
import { type ReactNode, useEffect, useState } from 'react'
import { Link, useNavigate, useSearchParams } from 'react-router'
import { toast } from 'sonner'
import { useHouse } from '../../app/house.tsx'
import { drinkQuery, drinksQuery } from '../../app/queries.ts'
import { readStored, writeStored } from '../../app/stored.ts'
import { useWho } from '../../app/who.ts'
import { devices } from '../../devices/devices.ts'
import { useScaleReading, useTray } from '../../devices/useTray.ts'
import { NumberField } from '../../ui/NumberField.tsx'
import { figuresCountedOn } from './drifting.ts'
import { clockS, emptyTrial, type TrialInMaking, type TrialStep, toTrialRequest } from './trialState.ts'
import { useTrialChanges } from './useTrials.ts'

const KEY = 'conch:trial'
/** A strainer and a tin keep about that much, g. */
const MOST_LOST_G = 8

/** The ice that a station is usually worked with: what the well has of it. */
function usualIce(book: HouseBook, wellSlug: string, stationSlug: string): IceKind[] {
  const well = bySlug(book.wells, wellSlug)
  const station = bySlug(well?.stations ?? [], stationSlug)
  if (!station) return ['crushed']
  const known = book.calibrations?.find((c) => c.well === wellSlug && c.station === stationSlug)
  const kinds = METHODS[station.method].usual.ice.map((p) => p.kind)
  if (known && !kinds.includes(known.ice)) return [known.ice, ...kinds.slice(1)]
  return kinds
}

/** A trial, with wet hands: one step after another, taken from scale, thermometer and clock. */
export function TrialPage() {
  const { book } = useHouse()
  const [search] = useSearchParams()
  const wellSlug = search.get('well')
  const stationSlug = search.get('station')
  const [trial, setTrial] = useState<TrialInMaking>(() => {
    const kept = readStored<TrialInMaking>(KEY)
    const isAnother = kept && wellSlug && (kept.well !== wellSlug || kept.station !== stationSlug)
    // A half-made one is not thrown away for an address, unless nothing is in it yet.
    if (kept && !(isAnother && kept.liquidBeforeG === undefined)) return kept
    const well = bySlug(book.wells, wellSlug ?? undefined) ?? book.wells[0]
    const station = bySlug(well?.stations ?? [], stationSlug ?? undefined) ?? well?.stations[0]
    return emptyTrial(well?.slug ?? '', station?.slug ?? '', usualIce(book, well?.slug ?? '', station?.slug ?? ''))
  })
  useEffect(() => writeStored(KEY, trial), [trial])
  const set = (change: Partial<TrialInMaking>) => setTrial((t) => ({ ...t, ...change }))
  return <TrialSheet trial={trial} set={set} restart={(t) => setTrial(t)} />
}

interface TrialSheetProps {
  trial: TrialInMaking
  set: (change: Partial<TrialInMaking>) => void
  restart: (trial: TrialInMaking) => void
}

function TrialSheet({ trial, set, restart }: TrialSheetProps) {
  const { book } = useHouse()
  const who = useWho()
  const navigate = useNavigate()
  const { add } = useTrialChanges()
  const readingG = useScaleReading()
  const probeC = useTray().probeC
  const [refused, setRefused] = useState<string>()
  const [isBusy, setBusy] = useState(false)
  const well = bySlug(book.wells, trial.well)
  const station = bySlug(well?.stations ?? [], trial.station)
  const drinks = useQuery(drinksQuery).data ?? []
  const drink = useQuery({ ...drinkQuery(trial.drink), enabled: trial.drink !== '' }).data
  const version = drink?.versions.find((v) => v.number === trial.version) ?? drink?.versions.at(-1)
  const made = trial.drink === '' ? undefined : version?.document

  const asked = toTrialRequest({ ...trial, version: version?.number })
  // The same reading of it as the server's: what cannot be is said while one stands at the scale.
  const dryRun = writeTrial(
    {
      ...(asked.ok
        ? asked.request
        : {
            well: trial.well,
            station: trial.station,
            ...(made ? { drink: trial.drink } : { figures: trial.figures }),
            liquidBeforeG: trial.liquidBeforeG ?? 100,
            ice: trial.ice.map((p) => ({ kind: p.kind, massG: p.massG ?? 100 })),
            durationS: trial.durationS ?? 5,
            afterG: trial.afterG ?? (trial.liquidBeforeG ?? 100) * 1.2,
            afterC: trial.afterC,
            iceLeftG: trial.iceLeftG,
            beforeC: trial.beforeC,
            iceC: trial.iceC,
            vesselC: trial.vesselC,
          }),
    },
    book,
    made,
  )
  const problemOf = (...fields: string[]) =>
    dryRun.ok ? undefined : dryRun.problems.find((p) => fields.includes(p.field))?.message
  const stands = dryRun.ok ? dryRun.document : undefined
  const expected = stands && asked.ok ? expectation(stands, book, trial) : undefined

  const lostG = stands && asked.ok ? (unaccountedG(stands) ?? 0) : 0

  const weigh = (take: (g: number) => void) => () => {
    if (readingG <= 0) {
      toast('The scale shows nothing. Put it on the pan, or open the devices (d).')
      return
    }
    take(readingG)
    devices.scale.tare()
  }
  const fromProbe = (take: (c: number) => void) => () => {
    const c = devices.thermometer.readC()
    if (c === undefined) toast('The thermometer is put away. Open the devices (d).')
    else take(c)
  }
  const keep = async () => {
    if (!asked.ok) return
    setBusy(true)
    setRefused(undefined)
    try {
      const kept = await add(asked.request)
      writeStored(KEY, undefined)
      restart(
        emptyTrial(
          trial.well,
          trial.station,
          trial.ice.map((p) => p.kind),
        ),
      )
      toast(`Trial ${kept.id} is written down.`)
      navigate(`/ice/${trial.well}/${trial.station}`)
    } catch (error) {
      setRefused(error instanceof Error ? error.message : String(error))
    } finally {
      setBusy(false)
    }
  }
  const next: TrialStep | undefined = asked.ok ? undefined : asked.next
  const isBegun = trial.liquidBeforeG !== undefined || trial.durationS !== undefined
  const scaleWord = readingG > 0 ? `${readingG} g: take it` : 'from the scale'
  const probeWord = probeC === undefined ? 'thermometer' : `${probeC.toFixed(1)} °C: take it`
  const weighField = (label: string, value: number | undefined, take: (g: number) => void, isNext: boolean) => (
    <>
      {value !== undefined && (
        <span>
          <NumberField label={label} value={value} low={0} high={5000} digits={1} onChange={take} /> g
        </span>
      )}
      <button
        type="button"
        className={`act min-h-11 ${isNext ? 'act-main' : ''}`}
        aria-label={`${label} from the scale`}
        onClick={weigh(take)}
      >
        {scaleWord}
      </button>
    </>
  )
  const readField = (
    label: string,
    value: number | undefined,
    otherwise: number | undefined,
    take: (c: number | undefined) => void,
  ) => (
    <span className="text-sm">
      {value === undefined ? (
        <span className="text-soft">
          {label} not taken{otherwise === undefined ? '' : `: ${otherwise.toFixed(1).replace('-', '−')} °C stands in`}
        </span>
      ) : (
        <>
          <span className="text-soft">{label}</span>{' '}
          <NumberField label={label} value={value} low={-30} high={60} digits={1} onChange={take} /> °C{' '}
          <button
            type="button"
            className="px-1 text-soft max-sm:min-h-11"
            aria-label={`Without ${label}`}
            onClick={() => take(undefined)}
          >
            ×
          </button>
        </>
      )}{' '}
      <button
        type="button"
        className="act act-quiet max-sm:min-h-11"
        aria-label={`${label} from the thermometer`}
        onClick={fromProbe(take)}
      >
        {probeWord}
      </button>
    </span>
  )
  return (
    <div className="mx-auto max-w-3xl px-4 pt-3 pb-10">
      <p className="caption">
        <Link className="underline" to="/ice">
          Ice bench
        </Link>
        {isBegun && ' · half made: kept on this device until it is written down'}
      </p>
      <h1 className="text-3xl">A trial</h1>
      <div className="mb-2 flex flex-wrap items-baseline gap-x-3 gap-y-1 text-lg">
        <select
          aria-label="Station"
          className="inplace"
          value={`${trial.well}/${trial.station}`}
          onChange={(e) => {
            const [w = '', s = ''] = e.target.value.split('/')
            set({
              well: w,
              station: s,
              speed: undefined,
              ice: usualIce(book, w, s).map((kind) => ({ kind, massG: undefined })),
            })
          }}
        >
          {book.wells.flatMap((w) =>
            w.stations.map((s) => (
              <option key={`${w.slug}/${s.slug}`} value={`${w.slug}/${s.slug}`}>
                {w.name}: {s.name}
              </option>
            )),
          )}
        </select>
        {(station?.speeds?.length ?? 0) > 0 && (
          <select
            aria-label="Speed"
            className="inplace"
            value={trial.speed ?? ''}
            onChange={(e) => set({ speed: e.target.value || undefined })}
          >
            <option value="">usual speed</option>
            {station?.speeds?.map((s) => (
              <option key={s.slug} value={s.slug}>
                {s.name}
              </option>
            ))}
          </select>
        )}
        <span className="text-soft">making</span>
        <select
          aria-label="What is made"
          className="inplace"
          value={trial.drink}
          onChange={(e) => set({ drink: e.target.value, version: undefined })}
        >
          <option value="">a test liquid</option>
          {drinks
            .filter((d) => d.versionCount > 0)
            .map((d) => (
              <option key={d.slug} value={d.slug}>
                {d.name}
              </option>
            ))}
        </select>
        {drink && drink.versions.length > 1 && (
          <select
            aria-label="Version"
            className="inplace"
            value={version?.number}
            onChange={(e) => set({ version: Number(e.target.value) })}
          >
            {drink.versions.map((v) => (
              <option key={v.number} value={v.number}>
                v{v.number}
              </option>
            ))}
          </select>
        )}
        {trial.drink === '' && (
          <span className="text-sm">
            <NumberField
              label="Strength of the test liquid"
              value={trial.figures.abvPct}
              low={0}
              high={70}
              onChange={(abvPct) => set({ figures: { ...trial.figures, abvPct } })}
            />{' '}
            % ·{' '}
            <NumberField
              label="Sugar of the test liquid"
              value={trial.figures.sugarGPer100Ml}
              low={0}
              high={60}
              onChange={(sugarGPer100Ml) => set({ figures: { ...trial.figures, sugarGPer100Ml } })}
            />{' '}
            g sugar ·{' '}
            <NumberField
              label="Acid of the test liquid"
              value={trial.figures.acidGPer100Ml}
              low={0}
              high={10}
              onChange={(acidGPer100Ml) => set({ figures: { ...trial.figures, acidGPer100Ml } })}
            />{' '}
            g acid in 100 ml
          </span>
        )}
      </div>
      {problemOf('drink', 'figures', 'station', 'well') && (
        <p role="alert" className="text-stop">
          {problemOf('drink', 'figures', 'station', 'well')}
        </p>
      )}
      <ol aria-label="Steps">
        <Step
          title="Pour everything, tare the tin, weigh the liquid"
          isNext={next === 'before'}
          isDone={trial.liquidBeforeG !== undefined}
          problem={problemOf('liquidBeforeG')}
        >
          {weighField(
            'Liquid before',
            trial.liquidBeforeG,
            (liquidBeforeG) => set({ liquidBeforeG }),
            next === 'before',
          )}
          {readField('the liquid', trial.beforeC, stands?.beforeC.value, (beforeC) => set({ beforeC }))}
          {readField('the tin', trial.vesselC, stands?.vesselC.value, (vesselC) => set({ vesselC }))}
        </Step>
        <Step
          title="Weigh the ice in"
          isNext={next === 'ice'}
          isDone={trial.ice.every((p) => p.massG !== undefined)}
          problem={problemOf('ice', 'iceC')}
        >
          {trial.ice.map((p, i) => {
            const change = (to: Partial<(typeof trial.ice)[number]>) =>
              set({ ice: trial.ice.map((q, n) => (n === i ? { ...q, ...to } : q)) })
            return (
              <span key={i} className="flex flex-wrap items-center gap-2">
                <select
                  aria-label={`Ice ${i + 1}`}
                  className="inplace"
                  value={p.kind}
                  onChange={(e) => change({ kind: e.target.value as IceKind })}
                >
                  {(Object.keys(ICE_KINDS) as IceKind[]).map((k) => (
                    <option key={k} value={k}>
                      {ICE_KINDS[k].label}
                    </option>
                  ))}
                </select>
                {weighField(
                  `Ice ${i + 1} weighed`,
                  p.massG,
                  (massG) => change({ massG }),
                  next === 'ice' && p.massG === undefined,
                )}
                {trial.ice.length > 1 && (
                  <button
                    type="button"
                    className="px-1 text-soft max-sm:min-h-11"
                    aria-label={`Without ice ${i + 1}`}
                    onClick={() => set({ ice: trial.ice.filter((_, n) => n !== i) })}
                  >
                    ×
                  </button>
                )}
              </span>
            )
          })}
          {trial.ice.length < 3 && (
            <button
              type="button"
              className="act act-quiet"
              onClick={() => set({ ice: [...trial.ice, { kind: 'machineCube', massG: undefined }] })}
            >
              + another ice
            </button>
          )}
          {readField('the ice', trial.iceC, stands?.iceC.value, (iceC) => set({ iceC }))}
        </Step>
        <Step title="Work" isNext={next === 'work'} isDone={trial.durationS !== undefined}>
          <Clock trial={trial} set={set} isNext={next === 'work'} />
        </Step>
        <Step
          title="Strain at once, weigh the liquid"
          isNext={next === 'after'}
          isDone={trial.afterG !== undefined}
          problem={problemOf('afterG', 'afterC')}
        >
          {weighField('Liquid after', trial.afterG, (afterG) => set({ afterG }), next === 'after')}
          {readField('the drink', trial.afterC, undefined, (afterC) => set({ afterC }))}
        </Step>
        <Step
          title="Weigh what stayed in the strainer, if you like"
          isDone={trial.iceLeftG !== undefined}
          problem={problemOf('iceLeftG')}
        >
          {weighField('Ice left', trial.iceLeftG, (iceLeftG) => set({ iceLeftG }), false)}
        </Step>
      </ol>
      {lostG > MOST_LOST_G && (
        <p className="mt-3 text-mind">
          {lostG.toFixed(0)} g of what went in came out nowhere: on the bar, in the tin, or a wrong weight.
        </p>
      )}
      {expected && (
        <p className="mt-3" aria-live="polite">
          {Math.abs(expected.measuredG - expected.fittedG) <= expected.usualG
            ? `${expected.measuredG.toFixed(0)} g of water, as expected (${expected.fittedG.toFixed(0)} g).`
            : `${expected.measuredG.toFixed(0)} g of water where ${expected.fittedG.toFixed(0)} g were expected. Weigh again before you write it down?`}
        </p>
      )}
      <label className="mt-3 block">
        <span className="text-sm font-semibold">Note</span>
        <input
          className="field"
          maxLength={500}
          placeholder="the bin does not drain, new blades …"
          value={trial.note}
          onChange={(e) => set({ note: e.target.value })}
        />
      </label>
      {refused && (
        <p role="alert" className="mt-3 border-l-4 border-stop pl-3 text-stop">
          {refused}
        </p>
      )}
      <div className="mt-4 flex flex-wrap justify-end gap-2">
        {isBegun && (
          <button
            type="button"
            className="act"
            onClick={() =>
              restart(
                emptyTrial(
                  trial.well,
                  trial.station,
                  trial.ice.map((p) => p.kind),
                ),
              )
            }
          >
            Begin again
          </button>
        )}
        <button
          type="button"
          className="act act-main min-h-12 px-6 text-lg"
          disabled={isBusy || !asked.ok || !dryRun.ok || !mayDo(who.role, 'logTrial')}
          title={mayDo(who.role, 'logTrial') ? undefined : 'A manager or a lead writes trials down'}
          onClick={keep}
        >
          Write the trial down
        </button>
      </div>
    </div>
  )
}

function Step({
  title,
  isNext = false,
  isDone,
  problem,
  children,
}: {
  title: string
  isNext?: boolean
  isDone: boolean
  problem?: string | undefined
  children: ReactNode
}) {
  return (
    <li
      className={`border-b border-hair py-2 pl-2 ${isNext ? 'border-l-4 border-l-ink bg-shoal' : 'border-l-4 border-l-transparent'}`}
    >
      <p className="text-lg">
        {title} {isDone && <span className="text-soft">✓</span>}
      </p>
      <div className="flex flex-wrap items-center gap-x-4 gap-y-1">{children}</div>
      {problem && isDone && (
        <p role="alert" className="text-stop">
          {problem}
        </p>
      )}
    </li>
  )
}

/** Start and stop with a thumb; it goes on through a reload. */
function Clock({ trial, set, isNext }: Pick<TrialSheetProps, 'trial' | 'set'> & { isNext: boolean }) {
  const [, tick] = useState(0)
  const { startedAtMs } = trial
  useEffect(() => {
    if (startedAtMs === undefined) return
    const timer = setInterval(() => tick((n) => n + 1), 100)
    return () => clearInterval(timer)
  }, [startedAtMs])
  const runs = startedAtMs !== undefined
  return (
    <>
      <button
        type="button"
        className={`act min-h-14 px-8 text-xl ${isNext || runs ? 'act-main' : ''}`}
        onClick={() =>
          runs
            ? set({ startedAtMs: undefined, durationS: Math.min(120, Math.max(0.3, clockS(startedAtMs, Date.now()))) })
            : set({ startedAtMs: Date.now(), durationS: undefined })
        }
      >
        {runs
          ? `Stop  ${clockS(startedAtMs, Date.now()).toFixed(1)} s`
          : trial.durationS === undefined
            ? 'Start'
            : 'Again'}
      </button>
      {!runs && (
        <span>
          <NumberField
            label="Seconds of work"
            value={trial.durationS}
            low={0.3}
            high={120}
            step={0.5}
            digits={1}
            onChange={(durationS) => set({ durationS })}
          />{' '}
          s
        </span>
      )}
      <span className="text-sm text-soft">
        in{' '}
        <NumberField
          label="Bursts"
          value={trial.bursts}
          low={1}
          high={10}
          digits={0}
          onChange={(n) => set({ bursts: Math.round(n) })}
        />{' '}
        burst{trial.bursts > 1 ? 's, ' : ''}
        {trial.bursts > 1 && (
          <>
            <NumberField
              label="Rest between bursts"
              value={trial.restS}
              low={0}
              high={60}
              digits={1}
              onChange={(restS) => set({ restS })}
            />{' '}
            s between
          </>
        )}
        {' · '}ice waited{' '}
        <NumberField
          label="Ice waited"
          value={trial.waitS}
          low={0}
          high={300}
          digits={0}
          onChange={(waitS) => set({ waitS })}
        />{' '}
        s
      </span>
    </>
  )
}

/** What the station is counted on to add, beside what was weighed; and by how much it usually differs, g. */
function expectation(document: TrialDocument, book: HouseBook, trial: Pick<TrialInMaking, 'well' | 'station'>) {
  const key = { well: trial.well, station: trial.station, ice: trialIceOf(document) }
  const figures = figuresCountedOn(book, key)
  if (!figures) return undefined
  const p = predictTrial(document, figures, bySlug(book.wells, key.well)?.ice)
  const known = book.calibrations?.find((c) => c.well === key.well && c.station === key.station && c.ice === key.ice)
  const off = known?.uncertaintyFraction ?? METHODS[document.method].uncertaintyFraction
  return {
    measuredG: document.afterG - p.afterG + p.addedG,
    fittedG: p.addedG,
    usualG: Math.max(4, 1.5 * off * p.addedG),
  }
}
