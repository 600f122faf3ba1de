import type { StyleAxis } from '../palate/index.ts'
import { linesOf, SPIRIT_WEIGHTS, type StandInBottle, type StandInTarget, type StandInWeights } from './distance.ts'
import { Grid, type StandInAnswer } from './grid.ts'

export interface StandInOptions {
  /** What is poured in all, and in what steps, ml. */
  volumeMl: number
  stepMl: number
  /** Whether the house can measure a volume; left out: all steps. */
  canPour?: (volumeMl: number) => boolean
  /** 1 to 3. */
  mostBottles?: number
  weights?: StandInWeights
  /** Further off than this on average, in steps, is no stand-in. */
  limitSteps?: number
  /** Further off than this on one line of style is another character, however near the rest is. */
  limitPerLine?: number
}

export const DEFAULT_LIMIT_STEPS = 1.2
export const DEFAULT_LIMIT_PER_LINE = 3

export interface StandInResult {
  /** `found`: within the limits. `nothingNear`: `nearest` is the nearest miss. `nothingToTry`: no bottle at all. */
  outcome: 'found' | 'nothingNear' | 'nothingToTry'
  /** For one, two and three bottles: the best and the runner-up, within the limits. */
  byCount: StandInAnswer[][]
  nearest: StandInAnswer | undefined
  /** Mixtures that were compared. */
  tried: number
  /** Bottles that could not be compared, and why. */
  leftOut: { slug: string; name: string; lines: StyleAxis[] }[]
}

const MOST_UNITS = 60

/**
 * The best stand-ins of one, two and three bottles in pourable volumes: every mixture on the grid is
 * weighed, none is skipped that could be better. Of two as near the fewer bottles, then the order of
 * the shelf, come first.
 * @param bottles those in stock that are not refused
 * @throws RangeError when volume and step make no grid, or more than three bottles are wanted
 */
export function findStandIns(
  target: StandInTarget,
  bottles: readonly StandInBottle[],
  {
    volumeMl,
    stepMl,
    canPour = () => true,
    mostBottles = 3,
    weights = SPIRIT_WEIGHTS,
    limitSteps = DEFAULT_LIMIT_STEPS,
    limitPerLine = DEFAULT_LIMIT_PER_LINE,
  }: StandInOptions,
): StandInResult {
  const units = Math.round(volumeMl / stepMl)
  if (!(stepMl > 0) || !(units >= 1) || units > MOST_UNITS)
    throw new RangeError(`${volumeMl} ml in steps of ${stepMl} ml is no grid; 1 to ${MOST_UNITS} steps`)
  if (!(mostBottles >= 1 && mostBottles <= 3)) throw new RangeError(`${mostBottles} bottles; 1 to 3`)
  const lines = linesOf(target)
  const leftOut = bottles.flatMap((b) => {
    const missing = lines.filter((a) => b.style[a] === undefined)
    return missing.length > 0 ? [{ slug: b.slug, name: b.name, lines: missing }] : []
  })
  const tried = bottles.filter((b) => lines.every((a) => b.style[a] !== undefined))
  const pourable = Array.from({ length: units + 1 }, (_, u) => u > 0 && canPour(u * stepMl))
  const grid = new Grid(target, tried, { units, stepMl, pourable, weights, lines })
  const within = grid.search(mostBottles, limitSteps, limitPerLine)
  const byCount = within.kept.map((answers) => answers.map((a) => grid.describe(a)))
  if (byCount.some((answers) => answers.length > 0))
    return { outcome: 'found', byCount, nearest: undefined, tried: within.tried, leftOut }
  const anyhow = grid.search(mostBottles, Number.POSITIVE_INFINITY, Number.POSITIVE_INFINITY).kept.flat()
  const nearest = anyhow.sort((a, b) => a.steps - b.steps || a.of.length - b.of.length)[0]
  return {
    outcome: nearest ? 'nothingNear' : 'nothingToTry',
    byCount,
    nearest: nearest && grid.describe(nearest),
    tried: within.tried,
    leftOut,
  }
}
