/** The seconds that bring a glass into a standard, whatever it is made of: a grid, a closer look, the edges of the window. */

import type { Standard } from '../drink/index.ts'
import { type AtSeconds, distanceFrom } from './along.ts'

/** Makes the glass at many seconds, rising; those outside the model are left out. */
export type MadeAt = (timesS: readonly number[], coarseness: number) => AtSeconds[]

/** Nobody stops sooner, s. */
export const FEWEST_S = 0.5
/** Step errors may be this many times the usual while looking: hundredths of a gram. */
export const COARSENESS = 100
const EDGE_S = 0.02

/** Close together where a chill is fast, wide where it is slow. */
export function secondsGrid(mostS: number, points: number): number[] {
  return Array.from({ length: points }, (_, i) => FEWEST_S * (mostS / FEWEST_S) ** (i / (points - 1)))
}

export interface Best {
  at: AtSeconds
  worst: number
  index: number
}

export function bestOf(list: readonly AtSeconds[], standard: Standard): Best | undefined {
  let best: Best | undefined
  list.forEach((at, index) => {
    const { worst } = distanceFrom(at, standard)
    if (!best || worst < best.worst) best = { at, worst, index }
  })
  return best
}

/** Looks closer between the neighbours of the best of a grid. */
export function refine(madeAt: MadeAt, standard: Standard, list: readonly AtSeconds[], best: Best): Best {
  const secondsOf = (of: readonly AtSeconds[], index: number) =>
    (of[Math.max(0, Math.min(of.length - 1, index))] as AtSeconds).durationS
  let low = secondsOf(list, best.index - 1)
  let high = secondsOf(list, best.index + 1)
  let found = best
  for (let round = 0; round < 2; round++) {
    const finer = Array.from({ length: 9 }, (_, i) => low + ((high - low) * i) / 8)
    const finerList = madeAt(finer, COARSENESS)
    const better = bestOf(finerList, standard)
    if (!better) return found
    if (better.worst < found.worst) found = better
    low = secondsOf(finerList, better.index - 1)
    high = secondsOf(finerList, better.index + 1)
  }
  return found
}

/** The edge between seconds that are in the standard and seconds that are not. */
export function edge(madeAt: MadeAt, standard: Standard, insideS: number, outsideS: number): number {
  let inside = insideS
  let outside = outsideS
  while (Math.abs(outside - inside) > EDGE_S) {
    const middle = (inside + outside) / 2
    const at = madeAt([middle], COARSENESS)[0]
    if (at && distanceFrom(at, standard).worst <= 1) inside = middle
    else outside = middle
  }
  return inside
}

/** As a hand stops: half seconds where they are all in the window, else tenths. */
export function handSeconds(bestS: number, lowS: number, highS: number): number {
  for (const step of [1, 0.5, 0.1, 0.05]) {
    if (step === 1 && bestS < 10) continue
    const rounded = Number((Math.round(bestS / step) * step).toFixed(2))
    // Not much nearer to an edge of the window than the best is.
    const room = (highS - lowS) * 0.2
    const isSafe =
      rounded - lowS >= Math.min(room, (bestS - lowS) * 0.7) && highS - rounded >= Math.min(room, (highS - bestS) * 0.7)
    if (isSafe) return rounded
  }
  return Number(bestS.toFixed(2))
}
