/**
 * A round: what is made in one go, and in which order. Fewest loads first; then the order in which least ice melts in the
 * glasses that wait; then the one in which the first glass waits shortest. All splits and orders are searched.
 */

import { clockSOf } from '../cold/index.ts'
import { type DrinkDocument, type GlassReport, type Predictions, resolveDrink } from '../drink/index.ts'
import type { HouseBook } from '../house/index.ts'
import { distanceFrom, type Miss } from '../means/index.ts'
import { MOST_GLASSES, MOST_IN_ONE } from './limits.ts'
import { type MadeLoad, makeLoad, perGo } from './load.ts'
import { glassOf, isShareable, isWorked, sharedOf } from './shared.ts'

/** What is asked for: so many glasses of one drink, as it is made tonight. */
export interface AskedFor {
  name: string
  document: DrinkDocument
  glasses: number
}

/** One load of a round in its place. */
export interface PlannedLoad {
  /** Which of what is asked for. */
  of: number
  made: MadeLoad
  /** From its ice to its garnish, s. */
  takesS: number
  /** From there until the last glass of the round is ready, s. */
  waitS: number
  /** Of the ice of one glass in that time, g. */
  meltedG: number
  /** One glass when it is handed over with the last. */
  afterWait: { predictions: Predictions; worst: number; misses: Miss[] }
}

export interface Plan {
  /** In the order in which they are made. */
  loads: PlannedLoad[]
  /** In all glasses that wait, g. */
  meltedG: number
  /** How long the first glass waits, s. */
  waitS: number
  /** From the first ice to the last garnish, s. */
  takesS: number
  /** Why more of one kind are not made in one go: how many, and in words. */
  notShared: { of: number; glasses: number; words: string }[]
}

export type PlanOutcome = { ok: true; plan: Plan } | { ok: false; of: number; words: string }

/**
 * What a hand takes for what is not chilling, s. Assumed: counted along an unhurried round, and the same in every order, so
 * that only their proportions to the chilling matter.
 */
export const TAKES_S = { ice: 4, strain: 4, eachGlass: 2, topIce: 3, pour: 3, garnish: 4 } as const

/** From the ice to the garnish of a load, once everything is poured, s. */
export function takesSOf(
  document: DrinkDocument,
  { glasses, goes, durationS }: Pick<MadeLoad, 'glasses' | 'goes' | 'durationS'>,
  paceS: number,
): number {
  const later = document.pours.filter((p) => p.into !== 'tin').length
  const each =
    TAKES_S.eachGlass +
    (document.serveIce.length > 0 ? TAKES_S.topIce : 0) +
    later * TAKES_S.pour +
    document.garnish.filter((g) => g.isFood).length * TAKES_S.garnish
  const tin = document.stages.length > 0 ? TAKES_S.ice + TAKES_S.strain : 0
  // Of a bowl in two goes the second is poured while the first stands.
  const poured = (goes - 1) * document.pours.filter((p) => p.into === 'tin').length * TAKES_S.pour
  return goes * (tin + (durationS ?? 0) + paceS) + poured + glasses * each
}

/** Water that the ice of a glass has given so long after hand-over, g. Beyond a quarter of an hour it is not followed. */
export function meltedBy(glass: Pick<GlassReport, 'samples'> | undefined, waitS: number): number {
  const samples = glass?.samples ?? []
  const [first] = samples
  if (!first) return 0
  let before = first
  for (const sample of samples) {
    if (sample.timeS >= waitS) {
      const span = sample.timeS - before.timeS
      const share = span > 0 ? (waitS - before.timeS) / span : 0
      return before.addedWaterG + share * (sample.addedWaterG - before.addedWaterG) - first.addedWaterG
    }
    before = sample
  }
  return before.addedWaterG - first.addedWaterG
}

/** What the search knows of a load. */
export interface Candidate {
  of: number
  made: MadeLoad
  takesS: number
}

/** Tenths of a gram: less nobody tastes, and it would hide who waits. */
const tenths = (g: number) => Math.round(g * 10)
const costOf = ({ made }: Candidate, waitS: number) => tenths(made.glasses * meltedBy(made.glass, waitS))

/**
 * The order of some loads in which least ice melts, then the first waits shortest: exact, by the best order of every set of
 * loads that come last. What a load loses depends only on what comes after it, not on the order of that.
 */
export function bestOrder(loads: readonly Candidate[]): { order: number[]; cost: number; waitS: number } {
  const n = loads.length
  const takes = new Array<number>(1 << n).fill(0)
  const best: { cost: number; waitS: number; first: number }[] = [{ cost: 0, waitS: 0, first: -1 }]
  for (let set = 1; set < 1 << n; set++) {
    let found: { cost: number; waitS: number; first: number } | undefined
    for (let i = 0; i < n; i++) {
      if (!(set & (1 << i))) continue
      const rest = set & ~(1 << i)
      const load = loads[i] as Candidate
      takes[set] = (takes[rest] as number) + load.takesS
      const waitS = takes[rest] as number
      const cost = (best[rest] as { cost: number }).cost + costOf(load, waitS)
      if (!found || cost < found.cost || (cost === found.cost && waitS < found.waitS - 1e-9))
        found = { cost, waitS, first: i }
    }
    best[set] = found as { cost: number; waitS: number; first: number }
  }
  const order: number[] = []
  for (let set = (1 << n) - 1; set > 0; set &= ~(1 << (order.at(-1) as number)))
    order.push((best[set] as { first: number }).first)
  const all = best[(1 << n) - 1] as { cost: number; waitS: number }
  return { order, cost: all.cost, waitS: all.waitS }
}

/** Every way to make so many glasses in the fewest loads of these sizes; sizes falling. */
export function fewestParts(glasses: number, sizes: readonly number[]): number[][] {
  const ways: number[][] = []
  const go = (left: number, from: number, parts: number[]) => {
    if (left === 0) {
      if (ways[0] && parts.length < ways[0].length) ways.length = 0
      if (!ways[0] || parts.length === ways[0].length) ways.push([...parts])
      return
    }
    if (ways[0] && parts.length >= ways[0].length) return
    sizes.slice(from).forEach((size, i) => {
      if (size <= left) go(left - size, from + i, [...parts, size])
    })
  }
  go(glasses, 0, [])
  return ways
}

/** The sizes in which a drink can be made, each with how; and why no larger one. */
function sizesOf(
  { document, glasses }: AskedFor,
  book: HouseBook,
  well: string,
): {
  made: Map<number, MadeLoad>
  notShared: { glasses: number; words: string } | undefined
  problem: string | undefined
} {
  const made = new Map<number, MadeLoad>()
  for (let size = 1; size <= Math.min(glasses, MOST_IN_ONE); size++) {
    const load = makeLoad(document, book, well, size)
    if (load.ok) made.set(size, load.made)
    else if (size === 1) return { made, notShared: undefined, problem: load.words }
    // What two do not do three do not, either: a vessel gets fuller and a chill slower.
    else return { made, notShared: { glasses: size, words: load.words }, problem: undefined }
  }
  return { made, notShared: undefined, problem: undefined }
}

/** Every choice of one of each list. */
function* choices<T>(lists: readonly (readonly T[])[]): Generator<T[]> {
  const [first, ...rest] = lists
  if (!first) {
    yield []
    return
  }
  for (const one of first) for (const others of choices(rest)) yield [one, ...others]
}

/**
 * The best round for what is asked for.
 * @param asked together at most {@link MOST_GLASSES} glasses
 * @throws where more glasses are asked for
 */
export function planRound(asked: readonly AskedFor[], book: HouseBook, well: string): PlanOutcome {
  if (asked.reduce((sum, a) => sum + a.glasses, 0) > MOST_GLASSES)
    throw new Error(`bug: a round has at most ${MOST_GLASSES} glasses`)
  const known = asked.map((a) => sizesOf(a, book, well))
  const without = known.findIndex((k) => k.problem !== undefined)
  if (without >= 0) return { ok: false, of: without, words: known[without]?.problem ?? '' }
  const splits = asked.map((a, of) =>
    fewestParts(
      a.glasses,
      [...(known[of]?.made.keys() ?? [])].sort((x, y) => y - x),
    ),
  )
  let best: { loads: Candidate[]; cost: number; waitS: number } | undefined
  for (const split of choices(splits)) {
    const loads = split.flatMap((sizes, of) => sizes.flatMap((size) => candidateOf(asked, known, of, size, book, well)))
    const { order, cost, waitS } = bestOrder(loads)
    if (!best || cost < best.cost || (cost === best.cost && waitS < best.waitS - 1e-9))
      best = { loads: order.map((i) => loads[i] as Candidate), cost, waitS }
  }
  const notShared = known.flatMap(({ notShared: no }, of) => (no ? [{ of, ...no }] : []))
  return { ok: true, plan: { ...inOrder(asked, best?.loads ?? [], book, well), notShared } }
}

function candidateOf(
  asked: readonly AskedFor[],
  known: readonly { made: Map<number, MadeLoad> }[],
  of: number,
  size: number,
  book: HouseBook,
  well: string,
): Candidate[] {
  const made = known[of]?.made.get(size)
  const document = asked[of]?.document
  return made && document ? [{ of, made, takesS: takesSOf(document, made, paceSOf(document, book, well)) }] : []
}

/** Waiting and rests of the spec beside its seconds of work, s. */
function paceSOf(document: DrinkDocument, book: HouseBook, well: string): number {
  const made = resolveDrink(document, book, well)
  const stage = made.ok ? made.drink.stages[0] : undefined
  return stage && made.ok && isWorked(made.drink) ? clockSOf(stage.parameters) - stage.parameters.durationS : 0
}

/**
 * A round whose loads and order somebody chose by hand.
 * @param loads goes: in how many it was begun
 * @returns the first load that cannot be made so, in words
 */
export function planByHand(
  asked: readonly AskedFor[],
  loads: readonly { of: number; glasses: number; goes?: number }[],
  book: HouseBook,
  well: string,
): PlanOutcome {
  const candidates: Candidate[] = []
  for (const { of, glasses, goes } of loads) {
    const document = asked[of]?.document
    if (!document) throw new Error('bug: a load of nothing that is asked for')
    const load = makeLoad(document, book, well, glasses, goes)
    if (!load.ok) return { ok: false, of, words: load.words }
    candidates.push({ of, made: load.made, takesS: takesSOf(document, load.made, paceSOf(document, book, well)) })
  }
  return { ok: true, plan: { ...inOrder(asked, candidates, book, well), notShared: [] } }
}

/** Loads in their order, each with what its glasses are when the last is ready. */
function inOrder(
  asked: readonly AskedFor[],
  loads: readonly Candidate[],
  book: HouseBook,
  well: string,
): Omit<Plan, 'notShared'> {
  let laterS = 0
  const planned: PlannedLoad[] = []
  for (const { of, made, takesS } of [...loads].reverse()) {
    const document = (asked[of] as AskedFor).document
    planned.unshift({
      of,
      made,
      takesS,
      waitS: laterS,
      meltedG: meltedBy(made.glass, laterS),
      afterWait: afterWaiting(document, book, well, made, laterS),
    })
    laterS += takesS
  }
  return {
    loads: planned,
    meltedG: planned.reduce((sum, l) => sum + l.made.glasses * l.meltedG, 0),
    waitS: planned[0]?.waitS ?? 0,
    takesS: laterS,
  }
}

/** A glass of a load that waits so long before it is handed over. */
function afterWaiting(
  document: DrinkDocument,
  book: HouseBook,
  well: string,
  made: MadeLoad,
  waitS: number,
): PlannedLoad['afterWait'] {
  const now = { predictions: made.predictions, worst: made.worst, misses: made.misses }
  const resolution = waitS > 0 ? resolveDrink(document, book, well) : undefined
  if (!resolution?.ok) return now
  const { drink } = resolution
  const later = glassOf(
    sharedOf({ ...drink, handOverS: drink.handOverS + waitS }, perGo(made), made.iceTimes),
    made.durationS,
  )
  if (!later.ok) return now
  const overflowMl = later.report?.fill.overflowMl ?? 0
  return {
    predictions: later.predictions,
    ...distanceFrom({ predictions: later.predictions, overflowMl }, made.standard),
  }
}

/** Whether more than one glass of a drink could be made in one go at all. */
export function canShare(document: DrinkDocument, book: HouseBook, well: string): boolean {
  const made = resolveDrink(document, book, well)
  return made.ok && isShareable(made.drink)
}
