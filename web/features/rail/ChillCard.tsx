import { missWords } from '@conch/core/means'
import {
  type ChillClock,
  type ClockStanding,
  goName,
  isForgotten,
  isTicked,
  type LoadToMake,
  missingBefore,
  paceAt,
  type Round,
  readingAt,
  type Step,
  standingAt,
} from '@conch/core/service'
import { useEffect, useRef, useState } from 'react'
import { useHouse } from '../../app/house.tsx'
import { barClock } from '../../devices/clock.ts'
import { ClockBand } from '../../graphics/ClockBand.tsx'
import { measureText } from '../../graphics/format.ts'
import { useWidth, WIDTHS_PX } from '../../ui/useWidth.ts'
import { useChillClock, useWorked } from '../../workers/round.ts'
import { changeRound } from './railRound.ts'
import { SECOND_TAP_MS } from './secondTap.ts'
import { signal } from './signal.ts'

interface ChillCardProps {
  round: Round
  step: Step
  steps: readonly Step[]
  load: LoadToMake
  /** What can be reckoned of the loads is; a load without it is outside of what is known. */
  isReckoned: boolean
  onTick: () => void
  onLook: (id: string) => void
}

const LOOK_EVERY_MS = 100

/** Seconds since the clock was started, looked at ten times a second while it runs. */
function useElapsedS(clock: Round['clocks'][string] | undefined): number | undefined {
  const [nowMs, setNow] = useState(barClock.nowMs)
  const isRunning = clock !== undefined && clock.ranS === undefined
  useEffect(() => {
    if (!isRunning) return undefined
    setNow(barClock.nowMs())
    const timer = setInterval(() => setNow(barClock.nowMs()), LOOK_EVERY_MS)
    return () => clearInterval(timer)
  }, [isRunning])
  if (!clock) return undefined
  return clock.ranS ?? Math.max(0, (nowMs - Date.parse(clock.startedAt)) / 1000)
}

/** By load, or by go of a load. */
const clockName = ({ load, go }: Step) => goName(load, go?.number ?? 1)

const setClock = (load: string, clock: Round['clocks'][string] | undefined) =>
  changeRound((round) => {
    const { [load]: _, ...others } = round.clocks
    return { ...round, clocks: clock ? { ...others, [load]: clock } : others }
  })

/** The clock of a chill: a machine counts down, a hand counts up; in which window it is, and what the glass would be now. */
export function ChillCard({ round, step, steps, load, isReckoned, onTick, onLook }: ChillCardProps) {
  const { book } = useHouse()
  const clock = useChillClock(load.document, load.made, book, round.well)
  const clockOf = clockName(step)
  const kept = round.clocks[clockOf]
  const elapsedS = useElapsedS(kept)
  const missing = missingBefore(steps, round, step)
  const [isSure, setSure] = useState(false)
  const startedMs = useRef(0)
  if (!clock)
    return (
      <section aria-label="The step in hand" className="min-h-0 flex-1 px-4 pt-3">
        <p className="text-xl text-soft">{step.name}</p>
        <p className="rail-amount">{step.amount}</p>
        {isReckoned && !load.made ? (
          <p role="status" className="border-l-4 border-mind pl-3 text-2xl">
            Nothing is known of this load here: count the seconds yourself, and taste it before it goes out.
          </p>
        ) : (
          <p className="late text-xl text-soft">reckoning its window …</p>
        )}
      </section>
    )
  if (missing.length > 0 && !isSure && kept === undefined && !isTicked(round, step))
    return (
      <section aria-label="The step in hand" role="alert" className="min-h-0 flex-1 overflow-y-auto px-4 pt-3">
        <p className="text-xl text-soft">{step.name}, not yet</p>
        <h1 className="rail-name text-mind">
          {missing.map((m) => m.name).join(', ')} {missing.length > 1 ? 'are' : 'is'} not in
        </h1>
        <div className="mt-4 flex flex-wrap gap-2">
          <button type="button" className="rail-act rail-main px-8" onClick={() => onLook(missing[0]?.id ?? step.id)}>
            Pour it now
          </button>
          <button type="button" className="rail-act" onClick={() => setSure(true)}>
            Chill it all the same
          </button>
        </div>
      </section>
    )
  const isRunning = kept !== undefined && kept.ranS === undefined
  const start = () => {
    startedMs.current = Date.now()
    setClock(clockOf, { startedAt: new Date(barClock.nowMs()).toISOString() })
  }
  const stop = () => {
    if (!kept || elapsedS === undefined || Date.now() - startedMs.current < SECOND_TAP_MS) return
    setClock(clockOf, { ...kept, ranS: Number(Math.min(86_400, elapsedS).toFixed(1)) })
    // Too soon or too long is looked at first: what became of the glass, and what helps.
    const standing = standingAt(clock.window, paceAt(clock.stretches, elapsedS).workedS)
    if (!isForgotten(elapsedS, clock) && (standing === 'in' || standing === 'open')) onTick()
  }
  return (
    <section aria-label="The step in hand" className="flex min-h-0 flex-1 flex-col overflow-y-auto px-4 pt-3">
      <Running {...{ clock, step, elapsedS, load }} isRunning={isRunning} />
      {kept?.ranS !== undefined && (
        <Verdict {...{ clock, load, round }} ranS={kept.ranS} onAgain={() => setClock(clockOf, undefined)} />
      )}
      <div className="mt-auto pb-2">
        {kept?.ranS === undefined ? (
          <button type="button" className="rail-act rail-main w-full" onClick={isRunning ? stop : start}>
            {isRunning ? 'Stop' : 'Start the clock'}
          </button>
        ) : (
          <button type="button" className="rail-act rail-main w-full" onClick={onTick} disabled={isTicked(round, step)}>
            {isTicked(round, step) ? '✓ Done' : 'Go on'}
          </button>
        )}
      </div>
    </section>
  )
}

const STANDS: Record<ClockStanding, { words: string; tone: string }> = {
  soon: { words: 'too soon', tone: 'text-soft' },
  in: { words: 'in the window', tone: 'text-standard' },
  long: { words: 'too long', tone: 'text-stop' },
  open: { words: '', tone: 'text-ink' },
}

function Running({
  clock,
  step,
  elapsedS,
  load,
  isRunning,
}: {
  clock: ChillClock
  step: Step
  load: LoadToMake
  elapsedS: number | undefined
  isRunning: boolean
}) {
  const pace = paceAt(clock.stretches, elapsedS ?? 0)
  const workedS = elapsedS === undefined ? 0 : pace.workedS
  const standing = standingAt(clock.window, workedS)
  const reading = elapsedS === undefined ? undefined : readingAt(clock, workedS)
  const isPhone = useWidth() < WIDTHS_PX.sm
  useSignals(clock, isRunning ? workedS : undefined)
  const forgotten = elapsedS !== undefined && isForgotten(elapsedS, clock)
  const endS = Math.max(clock.durationS * 1.6, (clock.window?.highS ?? 0) * 1.15)
  const leftS = clock.durationS - workedS
  const shown = clock.isMachine ? leftS : workedS
  if (forgotten && isRunning)
    return (
      <p role="alert" className="text-2xl text-mind">
        The clock has been running for {hoursText(elapsedS)}: nobody works a tin that long. Stop it, and say that it is
        done, or begin again.
      </p>
    )
  return (
    <>
      <p className="flex items-baseline gap-x-4 text-xl text-soft">
        <span className="min-w-0 sm:truncate">
          {step.name} · <b className="font-semibold text-ink">{step.amount}</b>
          {otherSeconds(load)}
        </span>
        {step.go && (
          <span className="whitespace-nowrap">
            go {step.go.number} of {step.go.of}
          </span>
        )}
        {pace.bursts > 1 && (
          <span>
            burst {pace.burst} of {pace.bursts}
          </span>
        )}
        {isRunning && pace.kind !== 'work' && (
          <b className="text-2xl text-ink">
            {pace.kind === 'rest' ? 'rest' : 'wait'} {Math.max(0, pace.leftS).toFixed(0)} s
          </b>
        )}
      </p>
      <p className="flex min-h-[1em] flex-wrap items-baseline gap-x-6">
        <b className="rail-amount" data-clock role="timer" aria-label="Seconds">
          {shown < 0 && '+'}
          {Math.abs(shown).toFixed(1)}
        </b>
        <span className={`text-4xl font-semibold ${STANDS[standing].tone}`} data-standing={standing}>
          {elapsedS === undefined ? (clock.isMachine ? 'counts down' : 'counts up') : STANDS[standing].words}
        </span>
      </p>
      <ClockBand
        window={clock.window}
        targetS={clock.durationS}
        workedS={workedS}
        endS={endS}
        widthPx={isPhone ? 340 : 640}
      />
      <p className="min-h-9 text-2xl text-soft" data-reading>
        {reading
          ? `in the glass now: ${Math.round(reading.dilutionPct)} % water from ice, ${measureText('temperatureC', reading.temperatureC)}`
          : leftSoWords(load) ||
            (clock.window ? '' : 'it is outside of its window at any seconds here: these are the spec’s')}
      </p>
    </>
  )
}

/** Nothing can be done about it at the clock; the window is that of the right amounts. */
const leftSoWords = ({ made }: LoadToMake): string =>
  made?.inTin && made.worst > 1 ? `with what is in it: ${made.misses.map(missWords).join(', ')}, at any seconds` : ''

/** Why it is not as the spec says. */
function otherSeconds({ made, glasses }: LoadToMake): string {
  if (made?.inTin && made.worst <= 1) return ' with what is in it'
  if (!made?.writtenS || !made.durationS || Math.abs(made.durationS - made.writtenS) < 0.05) return ''
  const written = `${Number(made.writtenS.toFixed(1))} s`
  if (made.goes > 1) return `; ${written} all at once`
  return glasses > 1
    ? ` for ${glasses} in one go; ${written} for one`
    : `; the spec’s ${written} miss the window with tonight’s ice`
}

const hoursText = (s: number) => (s < 5400 ? `${Math.round(s / 60)} min` : `${(s / 3600).toFixed(1)} h`)

/** Heard once each: in the window, at its seconds, out of it. */
function useSignals({ window, durationS }: ChillClock, workedS: number | undefined): void {
  const said = useRef(0)
  useEffect(() => {
    if (workedS === undefined) {
      said.current = 0
      return
    }
    const isLong = window && !window.isOpenEnded && workedS > window.highS
    const stage = isLong ? 3 : workedS >= durationS ? 2 : window && workedS >= window.lowS ? 1 : 0
    if (stage <= said.current) return
    said.current = stage
    signal(stage === 3 ? 'long' : stage === 2 ? 'now' : 'in')
  }, [workedS, window, durationS])
}

/** Stopped: what the glass is, and what can be done where it was too soon or too long. */
function Verdict({
  clock,
  load,
  round,
  ranS,
  onAgain,
}: {
  clock: ChillClock
  load: LoadToMake
  round: Round
  ranS: number
  onAgain: () => void
}) {
  const { book } = useHouse()
  const workedS = paceAt(clock.stretches, ranS).workedS
  const forgotten = isForgotten(ranS, clock)
  const standing = standingAt(clock.window, workedS)
  const worked = useWorked(load.document, load.made, forgotten ? undefined : workedS, book, round.well)
  if (forgotten)
    return (
      <p className="mt-2 text-2xl">
        Its {hoursText(ranS)} are not counted.{' '}
        <button type="button" className="rail-act" onClick={onAgain}>
          Begin the clock again
        </button>
      </p>
    )
  return (
    <div className="mt-1 text-2xl" role="status" data-verdict={standing}>
      {standing === 'soon' && (
        <p className="text-mind">
          {(clock.durationS - workedS).toFixed(1)} s short: give it the rest.{' '}
          <button type="button" className="rail-act" onClick={onAgain}>
            Begin the clock again
          </button>
        </p>
      )}
      {standing === 'long' && worked && (
        <>
          <p className="text-stop">It is now {worked.misses.map(missWords).join(', ') || 'still in its standard'}.</p>
          {worked.withScoop && (
            <p>
              With {worked.withScoop.words}:{' '}
              {worked.withScoop.isSaved
                ? 'back in its standard.'
                : `${worked.withScoop.misses.map(missWords).join(', ')}. Ice takes no water out: taste it, or make it again.`}
            </p>
          )}
        </>
      )}
      {standing === 'in' && (
        <p className="text-standard">
          In its window.{load.made?.inTin && <span className="text-soft"> {leftSoWords(load)}</span>}
        </p>
      )}
    </div>
  )
}
