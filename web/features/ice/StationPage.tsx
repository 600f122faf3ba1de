import { mayDo } from '@conch/contract'
import {
  type Calibration,
  ICE_KINDS,
  type IceKind,
  METHODS,
  predictTrial,
  type StationFigures,
  type Trial,
  trialIceOf,
} from '@conch/core/cold'
import { bySlug, type Station, type Well } from '@conch/core/house'
import { massGOf } from '@conch/core/liquid'
import { calibrationStart, isExcluded, stationTrials } from '@conch/core/means'
import { useQuery } from '@tanstack/react-query'
import { lazy, Suspense, useMemo, useState } from 'react'
import { Link, useParams, useSearchParams } from 'react-router'
import { toast } from 'sonner'
import { useHouse } from '../../app/house.tsx'
import { drinksQuery } from '../../app/queries.ts'
import { useWho } from '../../app/who.ts'
import { ErrorBoundary } from '../../ui/ErrorBoundary.tsx'
import { ReasonDialog } from '../../ui/ReasonDialog.tsx'
import { Failure, Loading } from '../../ui/States.tsx'
import { useCalibration } from '../../workers/bench.ts'
import { figuresCountedOn } from './drifting.ts'
import { StandingWords } from './StandingWords.tsx'
import { trialsQuery, useTrialChanges } from './useTrials.ts'

const SecondsChart = lazy(() => import('../../graphics/SecondsChart.tsx'))

/** One station: its trials, what they make of it, and which of them do not belong. */
export function StationPage() {
  const { well: wellSlug = '', station: slug = '' } = useParams()
  const { book } = useHouse()
  const all = useQuery(trialsQuery)
  const [search] = useSearchParams()
  const well = bySlug(book.wells, wellSlug)
  const station = bySlug(well?.stations ?? [], slug)
  if (!well || !station) return <Failure error={`There is no station “${slug}” at “${wellSlug}”.`} />
  if (all.isPending) return <Loading what="the trials" />
  if (!all.data) return <Failure error={all.error} />
  const mine = all.data.trials.filter((t) => t.well === wellSlug && t.station === slug)
  const usual = METHODS[station.method].usual.ice[0]?.kind ?? 'crushed'
  const kinds = [...new Set([...mine.map((t) => trialIceOf(t.document)), ...(mine.length > 0 ? [] : [usual])])]
  const asked = search.get('ice') as IceKind | null
  const ice = asked && kinds.includes(asked) ? asked : (kinds[0] ?? usual)
  return <StationSheet key={`${slug} ${ice}`} {...{ well, station, ice, kinds }} trials={mine} />
}

interface StationSheetProps {
  well: Well
  station: Station
  ice: IceKind
  kinds: IceKind[]
  trials: Trial[]
}

function StationSheet({ well, station, ice, kinds, trials: all }: StationSheetProps) {
  const { book } = useHouse()
  const who = useWho()
  const { calibrate, judge } = useTrialChanges()
  const names = useQuery(drinksQuery).data ?? []
  const [since, setSince] = useState('')
  const [leaving, setLeaving] = useState<Trial>()
  const mayJudge = mayDo(who.role, 'logTrial')
  const key = { well: well.slug, station: station.slug, ice }
  const standing = book.calibrations?.find((c) => c.well === well.slug && c.station === station.slug && c.ice === ice)
  const trials = all.filter((t) => trialIceOf(t.document) === ice)
  const counted = useMemo(
    () => stationTrials(all, { well: well.slug, station: station.slug, ice }, since),
    [all, well.slug, station.slug, ice, since],
  )
  const found = useCalibration(book, counted, key)
  const start = calibrationStart(well, station, ice)
  const figures = figuresCountedOn(book, key) ?? start
  const isNew = (t: Trial) => standing !== undefined && t.on > standing.on
  const say = async (work: Promise<unknown>, done: string) => {
    try {
      await work
      toast(done)
    } catch (error) {
      toast.error(error instanceof Error ? error.message : String(error))
    }
  }
  return (
    <div className="grid grid-cols-[minmax(0,1fr)] gap-x-8 px-4 pt-3 pb-10 lg:grid-cols-[minmax(0,1.6fr)_minmax(0,1fr)]">
      <div>
        <p className="caption">
          <Link className="underline" to="/ice">
            Ice bench
          </Link>{' '}
          · {well.name}
        </p>
        <header className="mb-2 flex flex-wrap items-baseline gap-x-3">
          <h1 className="text-3xl">{station.name}</h1>
          <span className="mr-auto text-soft">
            {METHODS[station.method].label},{' '}
            {kinds.length > 1
              ? kinds.map((k) => (
                  <Link key={k} className={k === ice ? 'font-semibold' : 'underline'} to={`?ice=${k}`}>
                    {ICE_KINDS[k].label}{' '}
                  </Link>
                ))
              : ICE_KINDS[ice].label}
          </span>
          {mayJudge && (
            <Link className="act" to={`/ice/trial?well=${well.slug}&station=${station.slug}`}>
              Weigh a trial
            </Link>
          )}
        </header>
        <p className="mb-2">
          <StandingWords station={station} calibration={standing} />
        </p>
        {trials.length === 0 ? (
          <p className="border border-dashed border-hair p-4 text-soft">
            Nobody has weighed a trial here yet: the shipped figures stand in. Two trials move them.
          </p>
        ) : (
          <>
            <WaterChart {...{ trials, figures, isNew }} measuredIce={well.ice} hasStanding={standing !== undefined} />
            <TrialTable
              {...{ trials, figures, found, isNew, mayJudge }}
              measuredIce={well.ice}
              nameOf={(s) => names.find((d) => d.slug === s)?.name ?? s}
              onLeaveOut={setLeaving}
              onTakeIn={(t) => say(judge(t.id, { kind: 'included' }), `Trial ${t.id} counts again.`)}
            />
          </>
        )}
      </div>
      <aside className="border-hair max-lg:mt-6 lg:border-l lg:pl-6">
        <h2 className="text-lg">What this station is like</h2>
        <Figures {...{ standing, found, start }} />
        {found?.outcome === 'atBound' && (
          <p role="alert" className="mt-2 text-mind">
            A figure ends at the edge of what is believed: look at the trials before you trust it.
          </p>
        )}
        {found?.outcome === 'tooFew' && trials.length > 0 && (
          <p className="mt-2 text-soft">
            {found.trials} of {found.needed} trials that are needed.
          </p>
        )}
        {mayJudge && trials.length > 0 && (
          <div className="mt-3 flex flex-wrap items-center gap-3">
            <button
              type="button"
              className="act act-main"
              disabled={!found || found.outcome === 'tooFew'}
              onClick={() =>
                say(
                  calibrate({ ...key, ...(since ? { since } : {}) }),
                  `${station.name} now counts on ${counted.length} trials.`,
                )
              }
            >
              Count on these {counted.length} trials
            </button>
            <label className="text-sm text-soft">
              only since{' '}
              <select className="inplace" value={since} onChange={(e) => setSince(e.target.value)}>
                <option value="">the first</option>
                {[...new Set(trials.map((t) => t.on))].slice(1).map((on) => (
                  <option key={on} value={on}>
                    {on}
                  </option>
                ))}
              </select>
            </label>
          </div>
        )}
        <p className="caption mt-4">
          Shipped: {METHODS[station.method].uaWPerK} W/K, {METHODS[station.method].stirringPowerW} W,{' '}
          {(100 * ICE_KINDS[ice].surfaceWaterFraction).toFixed(0)} % wet, dilution ±
          {Math.round(100 * METHODS[station.method].uncertaintyFraction)} %. Intervals hold nine times of ten.
        </p>
      </aside>
      {leaving && (
        <ReasonDialog
          title={`Leave trial ${leaving.id} out?`}
          lead="It stays written down as it was; calibrations no longer count it, until somebody takes it in again."
          main="Leave it out"
          onClose={() => setLeaving(undefined)}
          onReason={(reason) => {
            setLeaving(undefined)
            void say(judge(leaving.id, { kind: 'excluded', reason }), `Trial ${leaving.id} is left out.`)
          }}
        />
      )}
    </div>
  )
}

type MeasuredIce = Well['ice']
const addedOf = (t: Trial, figures: StationFigures, measuredIce: MeasuredIce) => {
  const p = predictTrial(t.document, figures, measuredIce)
  return { measuredG: t.document.afterG - p.afterG + p.addedG, fittedG: p.addedG }
}
/** Water for 100 g of liquid: trials are not all of one size. */
const per100G = (g: number, t: Trial) => (100 * g) / massGOf(t.document.liquid)

function WaterChart({
  trials,
  figures,
  measuredIce,
  isNew,
  hasStanding,
}: {
  trials: Trial[]
  figures: StationFigures
  measuredIce: MeasuredIce
  isNew: (t: Trial) => boolean
  hasStanding: boolean
}) {
  const last = trials.at(-1)
  const lines = useMemo(() => {
    if (!last) return []
    const endS = Math.max(...trials.map((t) => t.document.durationS)) * 1.25
    const times = Array.from({ length: 30 }, (_, i) => 0.3 + ((endS - 0.3) * i) / 29)
    return [
      {
        name: hasStanding ? 'as calibrated' : 'as shipped',
        points: times.map((s): [number, number] => {
          const p = predictTrial({ ...last.document, durationS: s }, figures, measuredIce)
          return [s, per100G(p.addedG, last)]
        }),
      },
    ]
  }, [trials, last, figures, measuredIce, hasStanding])
  // Makings differ in size and ice: a dot stands off the line by what its trial was off its own making.
  const dots = trials.map((t) => {
    const { measuredG, fittedG } = addedOf(t, figures, measuredIce)
    const { durationS } = t.document
    const like = last ? predictTrial({ ...last.document, durationS }, figures, measuredIce).addedG : fittedG
    return {
      x: durationS,
      y: per100G(like, last ?? t) + per100G(measuredG - fittedG, t),
      name: `trial ${t.id}, ${t.on}`,
      isHollow: isExcluded(t),
      isNew: isNew(t),
    }
  })
  return (
    <figure>
      <ErrorBoundary>
        <Suspense fallback={<div className="flex h-[230px] items-center text-soft">Drawing …</div>}>
          <SecondsChart
            label={`Water added against seconds: ${dots.map((d) => `${d.name}: ${d.y.toFixed(0)} g after ${d.x} s`).join('; ')}`}
            xLabel="seconds"
            yLabel="water, g for 100 g of liquid"
            lines={lines}
            dots={dots}
            from={0}
          />
        </Suspense>
      </ErrorBoundary>
      <figcaption className="caption">
        The line: a making like the last trial. Each dot stands off it by what that trial was off its own making.
        Diamonds: newer than the calibration; hollow: left out.
      </figcaption>
    </figure>
  )
}

function TrialTable({
  trials,
  figures,
  found,
  measuredIce,
  isNew,
  mayJudge,
  nameOf,
  onLeaveOut,
  onTakeIn,
}: {
  trials: Trial[]
  figures: StationFigures
  found: Calibration | undefined
  measuredIce: MeasuredIce
  isNew: (t: Trial) => boolean
  mayJudge: boolean
  nameOf: (slug: string) => string
  onLeaveOut: (t: Trial) => void
  onTakeIn: (t: Trial) => void
}) {
  const residualOf = (id: number) =>
    found && found.outcome !== 'tooFew' ? found.residuals.find((r) => r.id === id) : undefined
  const offs = trials.map((t) => {
    const { measuredG, fittedG } = addedOf(t, figures, measuredIce)
    return measuredG - fittedG
  })
  const widest = Math.max(5, ...offs.map(Math.abs))
  return (
    <div className="overflow-x-auto">
      <table className="mt-3 w-full min-w-[42rem] text-sm [&_td]:px-1.5 [&_th]:pr-1.5" aria-label="Trials">
        <thead>
          <tr className="caption text-right">
            <th className="text-left font-normal">trial</th>
            <th className="text-left font-normal">made</th>
            <th className="font-normal">s</th>
            <th className="font-normal">before, g</th>
            <th className="font-normal">ice, g</th>
            <th className="font-normal">after, g</th>
            <th className="font-normal">°C</th>
            <th className="font-normal">water, g</th>
            <th className="w-36 font-normal">off the line, g</th>
            <th />
          </tr>
        </thead>
        <tbody>
          {[...trials].reverse().map((t) => {
            const { measuredG, fittedG } = addedOf(t, figures, measuredIce)
            const off = measuredG - fittedG
            const d = t.document
            const out = isExcluded(t)
            const reason = t.events.at(-1)?.event
            // Newer ones that differ are what drifting is: they are not odd, the machine may be.
            const isOdd = residualOf(t.id)?.isOutlier && !out && !isNew(t)
            return (
              <tr key={t.id} className={`border-b border-hair/60 text-right ${out ? 'text-soft' : ''}`}>
                <th scope="row" className="text-left font-normal whitespace-nowrap">
                  {t.id} <span className="caption">{t.on}</span>
                </th>
                <td className="text-left">
                  {d.drink ? nameOf(d.drink) : 'test liquid'}
                  {d.note && <span className="caption"> · {d.note}</span>}
                  {isNew(t) && !out && <span className="caption text-stop"> newer</span>}
                  {isOdd && <span className="block text-mind">does not go with the others: look at its weights</span>}
                  {out && reason?.kind === 'excluded' && (
                    <span className="caption block">left out: {reason.reason}</span>
                  )}
                </td>
                <td>{d.durationS}</td>
                <td>{massGOf(d.liquid).toFixed(0)}</td>
                <td>{d.ice.reduce((sum, p) => sum + p.massG, 0).toFixed(0)}</td>
                <td>{d.afterG.toFixed(0)}</td>
                <td>{d.afterC === undefined ? '·' : d.afterC.toFixed(1).replace('-', '−')}</td>
                <td>{measuredG.toFixed(0)}</td>
                <td>
                  <OffBar off={off} widest={widest} isOut={out} />
                </td>
                <td>
                  {mayJudge && (
                    <button
                      type="button"
                      className="act act-quiet text-sm"
                      aria-label={out ? `Take trial ${t.id} in` : `Leave trial ${t.id} out`}
                      onClick={() => (out ? onTakeIn(t) : onLeaveOut(t))}
                    >
                      {out ? 'take in' : 'leave out …'}
                    </button>
                  )}
                </td>
              </tr>
            )
          })}
        </tbody>
      </table>
    </div>
  )
}

/** What is left over between a weight and the line: to the right, more water than was fitted. */
function OffBar({ off, widest, isOut }: { off: number; widest: number; isOut: boolean }) {
  const width = 96
  const x = width / 2 + (off / widest) * (width / 2 - 2)
  return (
    <span className="inline-flex items-center gap-2">
      <svg width={width} height={14} aria-hidden="true">
        <path d={`M${width / 2} 0V14`} stroke="var(--hair)" />
        <path d={`M${width / 2} 7H${x}`} stroke={isOut ? 'var(--hair)' : 'var(--ink)'} strokeWidth={5} />
      </svg>
      <span className="w-10">{`${off < 0 ? '−' : '+'}${Math.abs(off).toFixed(1)}`}</span>
    </span>
  )
}

function Figures({
  standing,
  found,
  start,
}: {
  standing: NonNullable<ReturnType<typeof useHouse>['book']['calibrations']>[number] | undefined
  found: Calibration | undefined
  start: StationFigures
}) {
  const now = found && found.outcome !== 'tooFew' ? found : undefined
  const text = (e: { value: number; low: number; high: number } | undefined, digits: number, times = 1) =>
    e ? (
      <>
        {(e.value * times).toFixed(digits)}{' '}
        <span className="caption">
          {(e.low * times).toFixed(digits)} to {(e.high * times).toFixed(digits)}
        </span>
      </>
    ) : (
      <span className="text-soft">·</span>
    )
  const rows = [
    { label: 'to the ice, W/K', key: 'uaWPerK', digits: 0, times: 1 },
    { label: 'on the ice, % water', key: 'surfaceWaterFraction', digits: 1, times: 100 },
    { label: 'motor, W', key: 'stirringPowerW', digits: 0, times: 1 },
  ] as const
  return (
    <table className="w-full text-sm">
      <thead>
        <tr className="caption text-right">
          <th />
          <th className="font-normal">without trials</th>
          <th className="font-normal">counted on</th>
          <th className="font-normal">with these trials</th>
        </tr>
      </thead>
      <tbody>
        {rows.map((r) => (
          <tr key={r.key} className="border-b border-hair/60 text-right">
            <th scope="row" className="py-1 text-left font-normal text-soft">
              {r.label}
            </th>
            <td>{(start[r.key] * r.times).toFixed(r.digits)}</td>
            <td>{text(standing?.[r.key], r.digits, r.times)}</td>
            <td>{text(now?.[r.key], r.digits, r.times)}</td>
          </tr>
        ))}
        <tr className="text-right">
          <th scope="row" className="py-1 text-left font-normal text-soft">
            dilution
          </th>
          <td />
          <td>{standing ? `±${Math.round(100 * standing.uncertaintyFraction)} %` : ''}</td>
          <td>{now ? `±${Math.round(100 * now.uncertaintyFraction)} %` : ''}</td>
        </tr>
      </tbody>
    </table>
  )
}
