import { type IcePortion, METHODS } from '../cold/index.ts'
import { MEASURES, type ResolvedDrink, type Standard } from '../drink/index.ts'
import type { Settings } from '../house/index.ts'
import { type AtSeconds, along, distanceFrom, type Miss } from './along.ts'
import { scoopedTimes, withColder, withIceTimes, withPoursTimes, withServeIceTimes, withStartC } from './change.ts'
import { type Best, bestOf, COARSENESS, edge, handSeconds, type MadeAt, refine, secondsGrid } from './searchSeconds.ts'

/** A change that is not the seconds, and how near the glass comes with it. */
export interface Help {
  words: string
  /** As distanceFrom: 1 or less is in the standard. */
  worst: number
  durationS: number
}

export type SolvedMeans =
  | {
      outcome: 'reached'
      durationS: number
      /** Seconds between which the glass stays in its standard. */
      window: { lowS: number; highS: number }
      /** Whether the window goes on to the most seconds that were tried. */
      isOpenEnded: boolean
      /** The ice of the first stage that does it, and whether it is other ice than the spec's. */
      ice: readonly IcePortion[]
      isOtherIce: boolean
      at: AtSeconds
      /** What leaves its band first, too short and too long. */
      tooShort: Miss[]
      tooLong: Miss[]
    }
  | {
      outcome: 'cannotBeReached'
      nearest: AtSeconds
      worst: number
      misses: Miss[]
      ice: readonly IcePortion[]
      isOtherIce: boolean
      /** What would reach it, or come nearer, the best first. */
      helps: Help[]
    }
  /** Nothing to hold, or nothing that chills. */
  | { outcome: 'noStandard' }
  | { outcome: 'noStage' }
  /** At none of the seconds tried does the model know the drink. */
  | { outcome: 'outsideModel' }

/** Beyond this many times the method's usual seconds it is another drink. */
const MOST_TIMES = 4
const MOST_S = 120
const GRID = 22
/** For looking whether a change is worth looking closer. */
const COARSE_GRID = 11
/** Ice that a hand would still call this recipe's, in times the spec's; the nearest first. */
const ICE_TIMES = [0.9, 1.1, 0.8, 1.2, 0.7, 1.35, 0.6, 1.5] as const

/** The most seconds that are tried. */
export function mostSecondsOf(drink: ResolvedDrink): number {
  const stage = drink.stages[0]
  const usual = stage?.method ? METHODS[stage.method].usual.durationS : 10
  return Math.min(MOST_S, MOST_TIMES * Math.max(usual, stage?.parameters.durationS ?? 0, 2))
}

/**
 * The seconds, and where they alone cannot do it the ice, that put a drink into a standard where it
 * is made; with the edges of the window, or with the nearest miss and what would reach it.
 * @param options.looksForHelp tries, where nothing is reached, what else a bar could change
 */
export function solveMeans(
  drink: ResolvedDrink,
  standard: Standard,
  settings: Pick<Settings, 'freezerTemperatureC' | 'fridgeTemperatureC'>,
  { looksForHelp = true }: { looksForHelp?: boolean } = {},
): SolvedMeans {
  const stage = drink.stages[0]
  if (!stage) return { outcome: 'noStage' }
  if (Object.keys(standard).length === 0) return { outcome: 'noStandard' }
  const mostS = mostSecondsOf(drink)
  const times = secondsGrid(mostS, GRID)
  const coarseTimes = secondsGrid(mostS, COARSE_GRID)
  const list = along(drink, times, COARSENESS)
  const coarse = bestOf(list, standard)
  if (!coarse) return { outcome: 'outsideModel' }
  const asWritten = refine(madeAtOf(drink), standard, list, coarse)
  if (asWritten.worst <= 1) return reached(drink, standard, times, list, asWritten, false)
  let nearest: Best & { made: ResolvedDrink } = { ...asWritten, made: drink }
  for (const iceTimes of stage.parameters.iceG > 0 ? ICE_TIMES : []) {
    const made = withIceTimes(drink, iceTimes)
    const coarseList = along(made, coarseTimes, COARSENESS)
    const rough = bestOf(coarseList, standard)
    // Between the points of a coarse grid it can only be so much better.
    if (!rough || rough.worst > nearest.worst + 1) continue
    const best = refine(madeAtOf(made), standard, coarseList, rough)
    if (best.worst <= 1) return reached(made, standard, times, along(made, times, COARSENESS), best, true)
    if (best.worst < nearest.worst - 1e-9) nearest = { ...best, made }
  }
  const { at, worst, made } = nearest
  return {
    outcome: 'cannotBeReached',
    nearest: at,
    worst,
    misses: distanceFrom(at, standard).misses,
    ice: made.stages[0]?.ice ?? [],
    isOtherIce: made !== drink,
    helps: looksForHelp ? helpsFor(made, standard, settings, coarseTimes, worst) : [],
  }
}

function reached(
  drink: ResolvedDrink,
  standard: Standard,
  times: readonly number[],
  list: readonly AtSeconds[],
  best: Best,
  isOtherIce: boolean,
): SolvedMeans {
  const bestS = best.at.durationS
  const isOut = (at: AtSeconds) => distanceFrom(at, standard).worst > 1
  const before = list.filter((at) => at.durationS < bestS && isOut(at)).at(-1)
  const after = list.find((at) => at.durationS > bestS && isOut(at))
  const lowS = before ? edge(madeAtOf(drink), standard, bestS, before.durationS) : (times[0] as number)
  const highS = after ? edge(madeAtOf(drink), standard, bestS, after.durationS) : (times.at(-1) as number)
  const durationS = handSeconds(bestS, lowS, highS)
  const at = along(drink, [durationS], 1)[0] ?? best.at
  const missesAt = (s: AtSeconds | undefined) => (s ? distanceFrom(s, standard).misses : [])
  const width = Math.max(0.3, (highS - lowS) * 0.25)
  return {
    outcome: 'reached',
    durationS,
    window: { lowS, highS },
    isOpenEnded: !after,
    ice: drink.stages[0]?.ice ?? [],
    isOtherIce,
    at,
    tooShort: before ? missesAt(along(drink, [Math.max(0.1, lowS - width)])[0]) : [],
    tooLong: after ? missesAt(along(drink, [highS + width])[0]) : [],
  }
}

const madeAtOf =
  (drink: ResolvedDrink): MadeAt =>
  (timesS, coarseness) =>
    along(drink, timesS, coarseness)

/** What else a bar can change, in the order in which it is least trouble. */
function helpsFor(
  drink: ResolvedDrink,
  standard: Standard,
  { freezerTemperatureC, fridgeTemperatureC }: Pick<Settings, 'freezerTemperatureC' | 'fridgeTemperatureC'>,
  times: readonly number[],
  worstNow: number,
): Help[] {
  const inTin = !drink.stages[0]?.inGlass
  const changes: [string, ResolvedDrink][] = [
    ...(drink.serveIce.length > 0
      ? ([0.5, 0.75, 1.25, 1.5].map((f) => [
          `${scoopedTimes(drink.serveIce, f).reduce((sum, p) => sum + p.massG, 0)} g of ice in the glass`,
          withServeIceTimes(drink, f),
        ]) as [string, ResolvedDrink][])
      : []),
    ...(drink.glass
      ? ([['a glass from the freezer', withColder(drink, undefined, freezerTemperatureC)]] as [string, ResolvedDrink][])
      : []),
    ...(inTin
      ? ([['a tin from the freezer', withColder(drink, freezerTemperatureC, undefined)]] as [string, ResolvedDrink][])
      : []),
    ['everything poured from the fridge', withStartC(drink, fridgeTemperatureC)],
    ...([0.85, 0.9, 0.95, 1.05, 1.1, 1.15].map((f) => [
      `${f < 1 ? 'less' : 'more'} of everything: ${Math.round(100 * f)} % of each pour`,
      withPoursTimes(drink, f),
    ]) as [string, ResolvedDrink][]),
  ]
  return changes
    .flatMap(([words, changed]): Help[] => {
      const list = along(changed, times, COARSENESS)
      const rough = bestOf(list, standard)
      const best = rough && refine(madeAtOf(changed), standard, list, rough)
      return best ? [{ words, worst: best.worst, durationS: best.at.durationS }] : []
    })
    .filter((h) => h.worst <= 1 || h.worst < worstNow * 0.9)
    .sort((a, b) => (a.worst <= 1 && b.worst <= 1 ? 0 : a.worst - b.worst))
    .slice(0, 3)
}

/** What a miss is called at a bar, by what it does to the glass. */
export function missWords({ measure, side }: Miss): string {
  if (measure === 'overflow') return 'runs over'
  const words: Record<string, [below: string, above: string]> = {
    strengthPct: ['watery', 'too strong'],
    sweetGPer100Ml: ['thin, too little sweetness', 'too sweet'],
    sourGPer100Ml: ['flat, too little sourness', 'too sharp'],
    dilutionPct: ['harsh, not diluted enough', 'watered down'],
    temperatureC: ['over-chilled', 'not cold enough'],
    volumeMl: ['a short glass', 'a long glass'],
    washLinePct: ['stands low in the glass', 'stands too high'],
  }
  const [below, above] = words[measure] ?? [MEASURES[measure].label, MEASURES[measure].label]
  return side === 'below' ? below : above
}
