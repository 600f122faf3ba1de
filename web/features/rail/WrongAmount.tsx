import { missWords } from '@conch/core/means'
import { amountText, type GridPour, pourGrid, usualMeasures } from '@conch/core/measure'
import {
  type InTin,
  isTicked,
  type LoadToMake,
  MOST_GLASSES,
  type Round,
  type Step,
  type ToPour,
} from '@conch/core/service'
import { useEffect, useMemo, useRef, useState } from 'react'
import { useHouse } from '../../app/house.tsx'
import { jiggerText, measureText } from '../../graphics/format.ts'
import { useRescue } from '../../workers/round.ts'
import { changeRound } from './railRound.ts'

interface WrongAmountProps {
  round: Round
  step: Step
  steps: readonly Step[]
  load: LoadToMake
  /** @param next the step to go on with; undefined: as it was */
  onDone: (next?: string) => void
}

const lineOf = ({ line = 0 }: Step) => line

/** Nobody can say which of two it was that are so near to each other, ml and share of the amount. */
const TOLD_APART_ML = 1
const TOLD_APART = 0.06

/** Amounts that one can tell from each other: of two that are too near, the one with fewer fillings, then the one that has a name. */
function toldApart(grid: readonly GridPour[], isNamed: (ml: number) => boolean): number[] {
  const rank = ({ moves, volumeMl }: GridPour) => moves.length * 2 + (isNamed(volumeMl) ? 0 : 1)
  const kept: number[] = []
  for (const { volumeMl } of grid.toSorted((a, b) => rank(a) - rank(b)))
    if (kept.every((k) => Math.abs(k - volumeMl) > Math.max(TOLD_APART_ML, TOLD_APART * volumeMl))) kept.push(volumeMl)
  return kept.sort((a, b) => a - b)
}

/** Enough of it is in: what is said is how much that is, else how much came to what was in. */
const isEnough = (step: Step) => (step.volumeMl ?? 0) < 0.5

/** Of this line in this vessel, when so much of it went in. */
const inVesselMl = (round: Round, step: Step, ml: number) => (isEnough(step) ? 0 : (round.poured[step.id] ?? 0)) + ml

/** What is in already of this load, in all its goes: lines that are ticked, and the wrong one. @param ml what went in of that */
function inTinWith(steps: readonly Step[], round: Round, step: Step, ml: number): InTin {
  const found: Record<number, number> = { [lineOf(step)]: inVesselMl(round, step, ml) }
  for (const s of steps)
    if (s.load === step.load && s.kind === 'pour' && s.id !== step.id && isTicked(round, s))
      found[lineOf(s)] = (found[lineOf(s)] ?? 0) + (round.poured[s.id] ?? 0) + (s.volumeMl ?? 0)
  return found
}

/** The wrong amount went in: how much, and what can be done about it. */
export function WrongAmount({ round, step, steps, load, onDone }: WrongAmountProps) {
  const { book } = useHouse()
  const { settings } = book
  const [ml, setMl] = useState<number>()
  const inTin = useMemo(
    () => (ml === undefined ? undefined : inTinWith(steps, round, step, ml)),
    [ml, steps, round, step],
  )
  const rescue = useRescue(load, inTin, book, round.well)
  // On a phone the ways stand below the amounts: they are what one looks for now.
  const ways = useRef<HTMLUListElement>(null)
  useEffect(() => {
    if (rescue) ways.current?.scrollIntoView({ block: 'end' })
  }, [rescue])
  const wantedMl = (isEnough(step) ? step.whole?.volumeMl : step.volumeMl) ?? 0
  const others = round.loads.reduce((sum, l) => sum + (l.id === load.id ? 0 : l.glasses), 0)
  const hasRoom = others + (rescue?.moreGlasses?.glasses ?? 0) <= MOST_GLASSES
  const wanted = isEnough(step) ? step.whole?.text : step.amount
  const isDashed = / dash/.test(wanted ?? '')
  const text = (v: number) => jiggerText(v, settings)
  const volumes = isDashed
    ? [1, 2, 3, 4, 5, 6].map((n) => n * settings.kit.dashMl)
    : toldApart(pourGrid(settings.measures ?? usualMeasures(settings.kit)), (v) => text(v).endsWith('oz'))
  const grid = volumes.filter((v) => Math.abs(v - wantedMl) > 0.5 && v <= Math.max(4 * wantedMl, 60))
  const poured = (v: number) =>
    isDashed ? amountText({ value: Math.round(v / settings.kit.dashMl), unit: 'dash' }) : text(v)
  const asItIs = () => {
    if (ml === undefined) return
    changeRound((now) => ({
      ...now,
      ticks: [...now.ticks.filter((t) => t !== step.id), step.id],
      poured: { ...now.poured, [step.id]: inVesselMl(now, step, ml) },
    }))
    onDone(steps.find((s) => s.id !== step.id && !isTicked(round, s))?.id)
  }
  const more = () => {
    const bigger = rescue?.moreGlasses
    if (ml === undefined || !bigger || !inTin) return
    const wanted = new Set(bigger.toPour.map((p) => `pour:${load.id}:${p.index}`))
    changeRound((now) => ({
      ...now,
      loads: now.loads.map((l) => (l.id === load.id ? { ...l, glasses: bigger.glasses } : l)),
      // What is in already is taken off what is poured now.
      poured: {
        ...now.poured,
        ...Object.fromEntries(Object.entries(inTin).map(([line, there]) => [`pour:${load.id}:${line}`, there])),
      },
      ticks: [...now.ticks.filter((t) => !wanted.has(t) && t !== step.id), ...(wanted.has(step.id) ? [] : [step.id])],
    }))
    onDone([...wanted][0])
  }
  const anew = () => {
    const own = new Set(steps.filter((s) => s.load === load.id && s.kind !== 'glass').map((s) => s.id))
    const isOwn = (clock: string) => clock.startsWith(load.id)
    changeRound((now) => ({
      ...now,
      ticks: now.ticks.filter((t) => !own.has(t)),
      clocks: Object.fromEntries(Object.entries(now.clocks).filter(([name]) => !isOwn(name))),
      poured: Object.fromEntries(Object.entries(now.poured).filter(([id]) => !own.has(id))),
    }))
    onDone(steps.find((s) => own.has(s.id))?.id)
  }
  return (
    <section aria-label="The wrong amount" className="flex min-h-0 flex-1 flex-col px-4 pt-3">
      <div className="min-h-0 flex-1 overflow-y-auto">
        <h1 className="text-3xl">How much {step.name} went in?</h1>
        <p className="text-xl text-soft">It should be {wanted}.</p>
        <div className="mt-2 flex flex-wrap gap-2 max-sm:grid max-sm:grid-cols-4">
          {grid.slice(0, 18).map((v) => (
            <button
              key={v}
              type="button"
              aria-pressed={ml === v}
              className="rail-act min-w-22 px-3 text-2xl max-sm:min-w-0 max-sm:px-1 max-sm:text-xl"
              onClick={() => setMl(v)}
            >
              {poured(v)}
            </button>
          ))}
        </div>
        {ml !== undefined && ml < wantedMl - 0.5 && (
          <p className="mt-3 text-2xl">Too little: pour {poured(wantedMl - ml)} more, and it is right.</p>
        )}
        {ml !== undefined && !rescue && <p className="late mt-3 text-xl text-soft">reckoning …</p>}
        {ml !== undefined && ml > wantedMl + 0.5 && rescue && (
          <ul ref={ways} className="mt-3 text-xl">
            {rescue.moreGlasses && !hasRoom && (
              <li className="py-2 text-soft">
                {rescue.moreGlasses.glasses} of it would put it right, and a round has at most {MOST_GLASSES} glasses.
              </li>
            )}
            {rescue.moreGlasses && hasRoom && (
              <Way
                title={`Make ${rescue.moreGlasses.glasses} of it`}
                onTake={more}
                words={glassWords(rescue.moreGlasses)}
                toPour={rescue.moreGlasses.toPour}
                text={text}
              />
            )}
            {rescue.noMore && <li className="py-2 text-soft">No more glasses of it: {rescue.noMore}.</li>}
            <Way
              title="Leave it so"
              onTake={asItIs}
              words={
                glassWords(rescue.asItIs) +
                otherSeconds(rescue.asItIs.durationS, load) +
                lessNext(step, rescue.asItIs.worst)
              }
              toPour={[]}
              text={text}
            />
            <Way
              title="Start anew"
              onTake={anew}
              words={`${Math.round(rescue.lostMl)} ml are thrown away.`}
              toPour={[]}
              text={text}
            />
          </ul>
        )}
      </div>
      <div className="shrink-0 py-2">
        <button type="button" className="rail-act w-full" onClick={() => onDone()}>
          Back
        </button>
      </div>
    </section>
  )
}

/** What is too much in one go is less in the last. */
const lessNext = ({ go }: Step, worst: number) =>
  go && go.number < go.of && worst <= 1 ? ' The last go gets so much less.' : ''

/** Left so, other seconds land in the standard. */
const otherSeconds = (durationS: number | undefined, { made }: LoadToMake): string =>
  durationS === undefined || made?.durationS === undefined || Math.abs(durationS - made.durationS) < 0.05
    ? ''
    : ` Chilled for ${Number(durationS.toFixed(1))} s.`

const glassWords = ({
  predictions: p,
  worst,
  misses,
}: Pick<NonNullable<ReturnType<typeof useRescue>>['asItIs'], 'predictions' | 'worst' | 'misses'>): string => {
  const figures = [
    p.strengthPct && measureText('strengthPct', p.strengthPct.value),
    p.volumeMl && measureText('volumeMl', p.volumeMl.value),
  ]
    .filter(Boolean)
    .join(', ')
  return worst <= 1
    ? `Each glass in its standard: ${figures}.`
    : `The glass: ${figures}; ${misses.map(missWords).join(', ')}.`
}

function Way({
  title,
  words,
  toPour,
  text,
  onTake,
}: {
  title: string
  words: string
  toPour: readonly ToPour[]
  text: (ml: number) => string
  onTake: () => void
}) {
  return (
    <li className="flex items-center gap-x-4 gap-y-1 border-b border-hair py-2 max-sm:flex-col max-sm:items-start">
      <button type="button" className="rail-act w-56 shrink-0 max-sm:w-full" onClick={onTake}>
        {title}
      </button>
      <span className="min-w-0">
        {words}
        {toPour.length > 0 && (
          <span className="block text-soft">
            Still to pour: {toPour.map((p) => `${text(p.moves?.volumeMl ?? p.volumeMl)} ${p.name}`).join(', ')}
          </span>
        )}
      </span>
    </li>
  )
}
