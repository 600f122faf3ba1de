/** The clock of a chill: what the glass would be if the work stopped now, and in which window it is. */

import { METHODS } from '../cold/index.ts'
import { type DrinkDocument, type Predictions, type ResolvedDrink, resolveDrink } from '../drink/index.ts'
import { bySlug, type HouseBook } from '../house/index.ts'
import { COARSENESS, distanceFrom, type Miss, toppingAt } from '../means/index.ts'
import { type MadeLoad, perGo } from './load.ts'
import { pouredOtherwise } from './poured.ts'
import { alongShared, sharedOf } from './shared.ts'

export interface Reading {
  timeS: number
  dilutionPct: number
  temperatureC: number
}

/** A stretch of the clock: work in a burst, a rest between two, waiting on the ice. */
export interface ClockStretch {
  kind: 'wait' | 'work' | 'rest'
  durationS: number
}

export interface ChillClock {
  /** Seconds of work at which it is stopped. */
  durationS: number
  window: MadeLoad['window']
  /** At hand-over, for work stopped at each of these seconds, rising. */
  readings: Reading[]
  stretches: ClockStretch[]
  /** A motor works: it counts down; a hand counts up. */
  isMachine: boolean
}

const POINTS = 28
/** It is followed to so many times its seconds: then it is another drink. */
const MOST_TIMES = 2.5
const MOST_S = 180

const inTinOf = (drink: ResolvedDrink, { glasses, inTin }: Pick<MadeLoad, 'glasses' | 'inTin'>) =>
  inTin ? pouredOtherwise(drink, glasses, inTin) : drink

/** @returns undefined where the load cannot be made, or nothing is worked */
export function chillClock(
  document: DrinkDocument,
  book: HouseBook,
  well: string,
  made: Pick<MadeLoad, 'glasses' | 'goes' | 'iceTimes' | 'durationS' | 'window' | 'inTin'>,
): ChillClock | undefined {
  const resolution = resolveDrink(document, book, well)
  const { durationS, window } = made
  if (!resolution.ok || durationS === undefined) return undefined
  const shared = sharedOf(inTinOf(resolution.drink, made), perGo(made), made.iceTimes)
  const endS = Math.min(MOST_S, Math.max(durationS * MOST_TIMES, (window?.highS ?? 0) * 1.4, 4))
  const timesS = Array.from({ length: POINTS }, (_, i) => 0.25 + ((endS - 0.25) * i) / (POINTS - 1))
  const readings = alongShared(shared)(timesS, COARSENESS).map(({ durationS: timeS, predictions }) => ({
    timeS,
    dilutionPct: predictions.dilutionPct?.value ?? 0,
    temperatureC: predictions.temperatureC?.value ?? 0,
  }))
  const { bursts = 1, restS = 0, waitS = 0 } = shared.tin.stages[0]?.parameters ?? {}
  const stretches: ClockStretch[] = waitS > 0 ? [{ kind: 'wait', durationS: waitS }] : []
  const pieces = restS > 0 ? Math.max(1, Math.round(bursts)) : 1
  for (let burst = 0; burst < pieces; burst++) {
    if (burst > 0) stretches.push({ kind: 'rest', durationS: restS })
    stretches.push({ kind: 'work', durationS: durationS / pieces })
  }
  const method = resolution.drink.stages[0]?.method
  return { durationS, window, readings, stretches, isMachine: method !== undefined && METHODS[method].isMachine }
}

/** Too soon, in the window, too long; `open` where there is no window to be in. */
export type ClockStanding = 'soon' | 'in' | 'long' | 'open'

/** @param workedS seconds of work so far */
export function standingAt(window: MadeLoad['window'], workedS: number): ClockStanding {
  if (!window) return 'open'
  if (workedS < window.lowS) return 'soon'
  return workedS > window.highS && !window.isOpenEnded ? 'long' : 'in'
}

/** What the glass would be if it stopped now; beyond what is followed, what it was there. */
export function readingAt({ readings }: Pick<ChillClock, 'readings'>, workedS: number): Reading | undefined {
  let before = readings[0]
  for (const reading of readings) {
    if (reading.timeS >= workedS && before) {
      const span = reading.timeS - before.timeS
      const share = span > 0 ? Math.max(0, (workedS - before.timeS) / span) : 0
      const between = (a: number, b: number) => a + share * (b - a)
      return {
        timeS: workedS,
        dilutionPct: between(before.dilutionPct, reading.dilutionPct),
        temperatureC: between(before.temperatureC, reading.temperatureC),
      }
    }
    before = reading
  }
  return before
}

/** Where the clock stands after so long: in which stretch, how much of it is left, and how much was worked. Past the end work goes on. */
export function paceAt(
  stretches: readonly ClockStretch[],
  elapsedS: number,
): { kind: ClockStretch['kind']; burst: number; bursts: number; leftS: number; workedS: number } {
  const bursts = stretches.filter((s) => s.kind === 'work').length
  let begunS = 0
  let workedS = 0
  let burst = 0
  for (const [i, { kind, durationS }] of stretches.entries()) {
    if (kind === 'work') burst++
    const isLast = i === stretches.length - 1
    const inIt = elapsedS - begunS
    if (inIt < durationS || isLast)
      return {
        kind,
        burst: Math.max(1, burst),
        bursts,
        leftS: durationS - inIt,
        workedS: workedS + (kind === 'work' ? inIt : 0),
      }
    begunS += durationS
    if (kind === 'work') workedS += durationS
  }
  return { kind: 'work', burst: 1, bursts: Math.max(1, bursts), leftS: -elapsedS, workedS: elapsedS }
}

/** Nobody works a tin for so long, s: the clock was forgotten, and says nothing of the drink. */
export const FORGOTTEN_S = 600
export const isForgotten = (elapsedS: number, { durationS }: Pick<ChillClock, 'durationS'>): boolean =>
  elapsedS > Math.max(FORGOTTEN_S, durationS * 10)

/** A glass that was worked otherwise than wanted. */
export interface WorkedOtherwise {
  predictions: Predictions
  worst: number
  misses: Miss[]
  /** With one scoop of ice more in each glass: whether that puts it right. */
  withScoop?: { words: string; predictions: Predictions; isSaved: boolean; misses: Miss[] }
}

const A_SCOOP_G = 80

/** What the glass is after so many seconds, and what one scoop of ice more makes of it. */
export function afterWorking(
  document: DrinkDocument,
  book: HouseBook,
  wellSlug: string,
  made: Pick<MadeLoad, 'glasses' | 'goes' | 'iceTimes' | 'standard' | 'inTin'>,
  workedS: number,
): WorkedOtherwise | undefined {
  const resolution = resolveDrink(document, book, wellSlug)
  if (!resolution.ok) return undefined
  const drink = inTinOf(resolution.drink, made)
  const at = (single: typeof drink) => alongShared(sharedOf(single, perGo(made), made.iceTimes))([workedS], 1)[0]
  const now = at(drink)
  if (!now) return undefined
  const well = bySlug(book.wells, wellSlug)
  const kind = drink.serveIce[0]?.kind ?? toppingAt(well)
  const scoop = well?.scoops?.find((s) => s.kind === kind)
  const massG = scoop?.massG ?? A_SCOOP_G
  const iced = at({ ...drink, serveIce: [...drink.serveIce, { kind, massG }] })
  const far = (glass: typeof now) => distanceFrom(glass, made.standard)
  return {
    predictions: now.predictions,
    ...far(now),
    ...(iced && drink.glass
      ? {
          withScoop: {
            words: `one ${scoop?.name ?? 'scoop'} more, ${massG} g`,
            predictions: iced.predictions,
            isSaved: far(iced).worst <= 1,
            misses: far(iced).misses,
          },
        }
      : {}),
  }
}
