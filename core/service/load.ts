/** What is made together in one go: one tin, mixer or jar, for one glass or several of the same drink. */

import { type IcePortion, METHODS } from '../cold/index.ts'
import {
  type DrinkDocument,
  type GlassReport,
  type Predictions,
  type ResolvedDrink,
  resolveDrink,
  type Standard,
  standardFrom,
} from '../drink/index.ts'
import type { HouseBook } from '../house/index.ts'
import {
  type AtSeconds,
  bestOf,
  COARSENESS,
  distanceFrom,
  edge,
  handSeconds,
  type MadeAt,
  type Miss,
  missWords,
  mostSecondsOf,
  refine,
  secondsGrid,
} from '../means/index.ts'
import { MOST_GOES } from './limits.ts'
import { byGo, type InTin, inAllGoes, isTooMuchIn, type Poured, pouredOtherwise } from './poured.ts'
import { alongShared, fullMlOf, glassOf, isShareable, isWorked, type Shared, sharedOf } from './shared.ts'

/** The seconds between which the glasses are in their standard. */
export interface ClockWindow {
  lowS: number
  highS: number
  /** It goes on beyond what was looked at. */
  isOpenEnded: boolean
}

/** How one load is made, and what stands in each of its glasses. */
export interface MadeLoad {
  glasses: number
  /** In so many goes a glass (a bowl) is made whose vessel would be too full; ice, seconds and fullness are those of one. */
  goes: number
  /** There was poured too much of something, and it was left so: what is in, by line. */
  inTin?: InTin
  /** Of all in the vessel in one go; and how many times the ice for one that is, before a hand scoops it. */
  ice: readonly IcePortion[]
  iceTimes: number
  /** Undefined where nothing is worked: a drink that is built. */
  durationS: number | undefined
  /** What the spec says for one. */
  writtenS: number | undefined
  window: ClockWindow | undefined
  /** Before the ice, ml; with it as it lies in the vessel; and with how much that still works. */
  liquidMl: number
  fullMl: number
  holdsMl: number | undefined
  /** What every glass is held against: its standard, or where it has none what one glass makes. */
  standard: Standard
  predictions: Predictions
  glass: GlassReport | undefined
  /** As distanceFrom: 1 or less is in the standard. */
  worst: number
  misses: Miss[]
}

export type LoadMade =
  | { ok: true; made: MadeLoad }
  /** Why so many are not made in one go, in words. */
  | { ok: false; why: 'inGlass' | 'tooFull' | 'outOfWindow' | 'cannotBeMade'; words: string }

/** In times the ice for one, beside the number of glasses: a doubled load wants less than double. */
const ICE_SHARES = [1, 0.85, 0.7, 0.55] as const
const GRID = 16
/** Longer than this no hand and no machine works on one load, s; nor so many times longer than on one glass of it. */
const MOST_BY_HAND_S = 30
const MOST_BY_MACHINE_S = 45
const MOST_TIMES_ONE = 4
/** In the middle of its window a hand stops sooner rather than later: as soon as it is so good. */
const GOOD_ENOUGH = 0.6
const NEARLY_BEST = 0.1
/** Two glasses this far apart in their worst measure are as good as each other, in half widths of a band. */
const SAME_WORST = 0.05

/** How much of a glass of a load is in its vessel at once. */
export const perGo = ({ glasses, goes }: Pick<MadeLoad, 'glasses' | 'goes'>): number => glasses / goes

/** In how many goes one glass of a drink is made, the same in each: as few as its vessel holds. Where even a quarter is too much: 1, and it is too full. */
export function goesOf(single: ResolvedDrink): number {
  const holdsMl = single.stages[0]?.holdsMl
  if (holdsMl === undefined || !isShareable(single)) return 1
  for (let goes = 1; goes <= MOST_GOES; goes++) if (fullMlOf(sharedOf(single, 1 / goes)) <= holdsMl) return goes
  return 1
}

/**
 * How so many glasses of a drink are made in one go at a well: pours times the glasses, ice and seconds solved for the whole load,
 * shared out evenly. For one glass ice and seconds are the spec's; seconds outside of the window give way to those inside. One
 * that its vessel does not hold is made in goes, with its ice shared out and the seconds that a part of it wants.
 * @param glasses 1 to 6
 * @param begunIn in so many goes one glass of it was begun; left out: as many as it takes here
 */
export function makeLoad(
  document: DrinkDocument,
  book: HouseBook,
  well: string,
  glasses: number,
  begunIn?: number,
): LoadMade {
  const resolution = resolveDrink(document, book, well)
  if (!resolution.ok) {
    const [first] = resolution.problems
    return {
      ok: false,
      why: 'cannotBeMade',
      words: first ? `${first.path.join(' ')}: ${first.message}` : 'it cannot be made',
    }
  }
  const { drink: single } = resolution
  if (glasses > 1 && !isShareable(single))
    return { ok: false, why: 'inGlass', words: 'it is made in its glass: every one by itself' }
  const one = glassOf(sharedOf(single, 1), undefined)
  if (!one.ok) return { ok: false, why: 'cannotBeMade', words: one.words }
  const hasOwn = Object.keys(document.standard).length > 0
  const standard = hasOwn ? document.standard : standardFrom(one.predictions)
  const overflowMl = one.report?.fill.overflowMl ?? 0
  const alone = distanceFrom({ predictions: one.predictions, overflowMl }, standard).worst
  // What one glass of it does not keep, two need not; but they are no worse.
  const mostWorst = Math.max(1, alone)
  const writtenS = isWorked(single) ? single.stages[0]?.parameters.durationS : undefined
  const goes = glasses === 1 ? (begunIn ?? goesOf(single)) : 1
  const found =
    glasses === 1 ? secondsOfOne(single, goes, standard, writtenS) : bestShared(single, standard, glasses, mostWorst)
  if (!found.ok) return found
  const { shared, iceTimes, durationS, window } = found
  const each = glassOf(shared, durationS)
  if (!each.ok) return { ok: false, why: 'cannotBeMade', words: each.words }
  const { worst, misses } = distanceFrom(
    { predictions: each.predictions, overflowMl: each.report?.fill.overflowMl ?? 0 },
    standard,
  )
  if (glasses > 1 && worst > mostWorst + SAME_WORST)
    return { ok: false, why: 'outOfWindow', words: outOfWindowWords(glasses, misses) }
  return {
    ok: true,
    made: {
      glasses,
      goes,
      ice: shared.tin.stages[0]?.ice ?? [],
      iceTimes,
      durationS,
      writtenS,
      window,
      liquidMl: shared.tinStart.volumeBeforeIceMl,
      fullMl: fullMlOf(shared),
      holdsMl: single.stages[0]?.inGlass ? undefined : single.stages[0]?.holdsMl,
      standard,
      predictions: each.predictions,
      glass: each.report,
      worst,
      misses,
    },
  }
}

/**
 * The same load with too much of something in it. Its ice is what it was; its seconds stay where they still land in the
 * standard, and give way to those that do. Where none do, seconds and window are those of the right amounts: more water
 * would only hide what is wrong.
 * @param poured what is in it, of every line of which too much was poured, other lines may be left out; or that go by go
 * @returns the load as it was where nothing is too much, or where such a load is outside of what is known
 */
export function leftSo(
  document: DrinkDocument,
  book: HouseBook,
  well: string,
  made: MadeLoad,
  poured: Poured,
): MadeLoad {
  const resolution = resolveDrink(document, book, well)
  if (!resolution.ok) return made
  const inGoes = byGo(poured)
  const inTin = made.goes > 1 ? inAllGoes(resolution.drink, inGoes, made.goes) : (inGoes[0] ?? {})
  if (!isTooMuchIn(resolution.drink, made.glasses, inTin)) return made
  const single = pouredOtherwise(resolution.drink, made.glasses, inTin)
  const shared = sharedOf(single, perGo(made), made.iceTimes)
  const around =
    made.durationS === undefined
      ? undefined
      : windowAround(alongShared(shared), made.standard, secondsGrid(mostSecondsOf(single), GRID))
  const after = (durationS: number | undefined) => {
    const each = glassOf(shared, durationS)
    if (!each.ok) return undefined
    const { predictions, report: glass } = each
    const overflowMl = glass?.fill.overflowMl ?? 0
    return { durationS, predictions, glass, ...distanceFrom({ predictions, overflowMl }, made.standard) }
  }
  const asBefore = after(made.durationS)
  if (!asBefore) return made
  const landing = around?.window
  const other =
    landing && asBefore.worst > 1 ? after(handSeconds(around.bestS, landing.lowS, landing.highS)) : undefined
  // The search is coarser than the glass that is shown: other seconds have to land there, too.
  const best = other && other.worst <= 1 ? other : asBefore
  return {
    ...made,
    ...best,
    inTin,
    window: best.worst <= 1 ? (landing ?? made.window) : made.window,
    liquidMl: shared.tinStart.volumeBeforeIceMl,
    fullMl: fullMlOf(shared),
  }
}

const isWithin = ({ lowS, highS }: ClockWindow, durationS: number) => durationS >= lowS && durationS <= highS

const outOfWindowWords = (glasses: number, misses: readonly Miss[]) =>
  `${glasses} in one go come out ${misses.map(missWords).join(', ') || 'otherwise'}: no ice and seconds here make them like one`

type Found =
  | { ok: true; shared: Shared; iceTimes: number; durationS: number | undefined; window: ClockWindow | undefined }
  | Extract<LoadMade, { ok: false }>

/** Around the best of a grid, looked at closer: where it begins and ends to be in the standard. */
function windowAround(madeAt: MadeAt, standard: Standard, timesS: readonly number[]) {
  const list = madeAt(timesS, COARSENESS)
  const rough = bestOf(list, standard)
  if (!rough) return undefined
  const best = refine(madeAt, standard, list, rough)
  const bestS = best.at.durationS
  if (best.worst > 1) return { bestS, worst: best.worst, window: undefined }
  const isOut = (at: AtSeconds) => distanceFrom(at, standard).worst > 1
  const before = list.filter((at) => at.durationS < bestS && isOut(at)).at(-1)
  const after = list.find((at) => at.durationS > bestS && isOut(at))
  const window: ClockWindow = {
    lowS: before ? edge(madeAt, standard, bestS, before.durationS) : (timesS[0] as number),
    highS: after ? edge(madeAt, standard, bestS, after.durationS) : (timesS.at(-1) as number),
    isOpenEnded: !after,
  }
  return { bestS, worst: best.worst, window }
}

/** The fewest seconds in the window that are good enough: a flat window would else end where the search did. */
function soonestGood(
  madeAt: MadeAt,
  standard: Standard,
  lowS: number,
  { bestS, worst }: { bestS: number; worst: number },
) {
  const times = Array.from({ length: 13 }, (_, i) => lowS + ((bestS - lowS) * i) / 12)
  const enough = Math.max(worst + NEARLY_BEST, GOOD_ENOUGH)
  return madeAt(times, COARSENESS).find((at) => distanceFrom(at, standard).worst <= enough)?.durationS ?? bestS
}

function secondsOfOne(single: ResolvedDrink, goes: number, standard: Standard, writtenS: number | undefined): Found {
  const iceTimes = 1 / goes
  const shared = sharedOf(single, 1 / goes)
  if (writtenS === undefined) return { ok: true, shared, iceTimes, durationS: undefined, window: undefined }
  const around = windowAround(alongShared(shared), standard, secondsGrid(mostSecondsOf(single), GRID))
  const window = around?.window
  if (window && !isWithin(window, writtenS)) {
    const durationS = handSeconds(around.bestS, window.lowS, window.highS)
    return { ok: true, shared, iceTimes, durationS, window }
  }
  // The spec's seconds are for all of it: of a part of it they say nothing.
  const durationS = goes > 1 && !window ? Number((around?.bestS ?? writtenS / goes).toFixed(1)) : writtenS
  return { ok: true, shared, iceTimes, durationS, window }
}

/** The ice and the seconds with which a shared load comes nearest to the standard, among the loads that the vessel holds. */
function bestShared(single: ResolvedDrink, standard: Standard, glasses: number, mostWorst: number): Found {
  const one = single.stages[0]?.parameters.durationS ?? 0
  const method = single.stages[0]?.method
  const limitS = method && METHODS[method].isMachine ? MOST_BY_MACHINE_S : MOST_BY_HAND_S
  const mostS = Math.min(limitS, MOST_TIMES_ONE * Math.max(one, 2) * (glasses - 1))
  let best: { shared: Shared; iceTimes: number; around: NonNullable<ReturnType<typeof windowAround>> } | undefined
  let leastFull: { fullMl: number; holdsMl: number } | undefined
  for (const share of ICE_SHARES) {
    const iceTimes = Math.max(1, share * glasses)
    const shared = sharedOf(single, glasses, iceTimes)
    const holdsMl = single.stages[0]?.holdsMl
    const fullMl = fullMlOf(shared)
    if (holdsMl !== undefined && fullMl > holdsMl) {
      if (!leastFull || fullMl < leastFull.fullMl) leastFull = { fullMl, holdsMl }
      continue
    }
    const around = windowAround(alongShared(shared), standard, secondsGrid(mostS, GRID))
    if (around && (!best || around.worst < best.around.worst - SAME_WORST)) best = { shared, iceTimes, around }
    // In the middle of the window there is nothing to be won with other ice.
    if (best && best.around.worst < 0.5) break
  }
  if (!best) {
    if (!leastFull) return { ok: false, why: 'cannotBeMade', words: 'it is outside of what is known of ice and liquid' }
    const { fullMl, holdsMl } = leastFull
    const words = `${glasses} in one go are ${Math.round(fullMl)} ml with the least ice; it works with ${Math.round(holdsMl)} ml`
    return { ok: false, why: 'tooFull', words }
  }
  const { shared, iceTimes, around } = best
  const { window } = around
  if (!window && around.worst > mostWorst + SAME_WORST) {
    const glass = glassOf(shared, around.bestS)
    const misses = glass.ok
      ? distanceFrom({ predictions: glass.predictions, overflowMl: glass.report?.fill.overflowMl ?? 0 }, standard)
          .misses
      : []
    return { ok: false, why: 'outOfWindow', words: outOfWindowWords(glasses, misses) }
  }
  if (!window) return { ok: true, shared, iceTimes, durationS: Number(around.bestS.toFixed(1)), window }
  const soonS = soonestGood(alongShared(shared), standard, window.lowS, around)
  return { ok: true, shared, iceTimes, durationS: handSeconds(soonS, window.lowS, window.highS), window }
}
