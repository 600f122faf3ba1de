import { mayDo } from '@conch/contract'
import { dayText } from '@conch/core/calendar'
import { fittedOf, type StoredCalibration, type Trial, trialIceOf } from '@conch/core/calibration'
import { ICE_KINDS, type IceKind, METHODS } from '@conch/core/cold'
import { bySlug, type Station, type Well } from '@conch/core/house'
import {
  calibrationStart,
  figuresCountedOn,
  isSameStation,
  newestCalibration,
  stationTrials,
  trialsSince,
} from '@conch/core/trials'
import { useQuery } from '@tanstack/react-query'
import { useMemo, useState } from 'react'
import { Link, useParams, useSearchParams } from 'react-router'
import { toast } from 'sonner'
import { useHouse } from '../../app/house.tsx'
import { useOpened } from '../../app/lastOpened.ts'
import { drinkPageQuery } from '../../app/queries.ts'
import { useWho } from '../../app/who.ts'
import { ReasonDialog } from '../../ui/ReasonDialog.tsx'
import { Failure, Loading } from '../../ui/States.tsx'
import { useCalibration } from '../../workers/bench.ts'
import { StandingWords } from './StandingWords.tsx'
import { StationFiguresTable } from './StationFiguresTable.tsx'
import { TrialTable } from './TrialTable.tsx'
import { trialsQuery, useTrialChanges } from './useTrials.ts'
import { WaterChart } from './WaterChart.tsx'

/** One station: its trials, what they make of it, and which of them do not belong. */
export function StationPage() {
  const { well: wellSlug = '', station: slug = '' } = useParams()
  const { book } = useHouse()
  const all = useQuery(trialsQuery)
  const [search] = useSearchParams()
  const well = bySlug(book.wells, wellSlug)
  const station = bySlug(well?.stations ?? [], slug)
  useOpened(well && station && `${station.name}, ${well.name}`)
  if (!well || !station) return <Failure error={`There is no station “${slug}” at “${wellSlug}”.`} />
  if (all.isPending) return <Loading what="the trials" />
  if (!all.data) return <Failure error={all.error} />
  const mine = all.data.trials.filter((t) => t.well === wellSlug && t.station === slug)
  const usual = METHODS[station.method].usual.ice[0]?.kind ?? 'crushed'
  const kinds = [...new Set([...mine.map((t) => trialIceOf(t.document)), ...(mine.length > 0 ? [] : [usual])])]
  const asked = search.get('ice') as IceKind | null
  const ice = asked && kinds.includes(asked) ? asked : (kinds[0] ?? usual)
  return (
    <StationSheet
      key={`${slug} ${ice}`}
      {...{ well, station, ice, kinds }}
      trials={mine}
      stored={all.data.calibrations}
    />
  )
}

interface StationSheetProps {
  well: Well
  station: Station
  ice: IceKind
  kinds: IceKind[]
  trials: Trial[]
  stored: StoredCalibration[]
}

function StationSheet({ well, station, ice, kinds, trials: all, stored }: StationSheetProps) {
  const { book } = useHouse()
  const who = useWho()
  const { calibrate, judge } = useTrialChanges()
  const made = [...new Set(all.flatMap((t) => t.document.drink ?? []))].sort()
  const names = useQuery({ ...drinkPageQuery({ of: made.join(',') }), enabled: made.length > 0 }).data?.rows ?? []
  const key = useMemo(() => ({ well: well.slug, station: station.slug, ice }), [well.slug, station.slug, ice])
  // Who counted from some day on once goes on from there.
  const countedFrom = newestCalibration(stored, key)?.document.trials
  const [since, setSince] = useState(() => {
    const ofKind = stationTrials(all, key)
    const first = ofKind.find((t) => countedFrom?.includes(t.id))
    return first && first !== ofKind[0] ? first.on : ''
  })
  const [leaving, setLeaving] = useState<Trial>()
  const mayJudge = mayDo(who.role, 'logTrial')
  const standing = book.calibrations?.find((c) => isSameStation(c, key))
  const trials = all.filter((t) => trialIceOf(t.document) === ice)
  const counted = useMemo(() => stationTrials(all, key, since), [all, key, since])
  const found = useCalibration(book, counted, key)
  const start = calibrationStart(well, station, ice)
  const figures = figuresCountedOn(book, key) ?? start
  const newer = trialsSince(stored, all, key)
  const isNew = (t: Trial) => standing !== undefined && newer.includes(t)
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
        <StationFiguresTable {...{ standing, found, start }} />
        {found?.outcome === 'atBound' && (
          <p role="alert" className="mt-2 text-mind">
            A figure ends at the edge of what is believed: look at the trials before you trust it.
          </p>
        )}
        {found?.outcome === 'outsideModel' && (
          <p role="alert" className="mt-2 text-mind">
            Trial {found.trial} is outside of what is known of ice: leave it out to count on the others.
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
              disabled={!fittedOf(found)}
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
                    {dayText(on)}
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
