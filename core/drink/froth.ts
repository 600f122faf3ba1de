/**
 * Froth: how much is raised by the seconds of a method, and how it goes down again. Coarse bubbles go within seconds, fine
 * ones over a minute or two: that is why work in bursts leaves less, and a drink that waits is lower than one just poured.
 */

import { METHODS, POURS } from '../cold/index.ts'
import type { ResolvedStage } from './resolveStage.ts'

export interface Froth {
  coarseMl: number
  fineMl: number
}

export const NO_FROTH: Froth = { coarseMl: 0, fineMl: 0 }

/** Of what work raises. */
const COARSE_SHARE = 0.6
/** In which two thirds of it have come up, s. */
const RISE_S = 3
/** In which two thirds of each have gone, s. */
const COARSE_S = 6
const FINE_S = 75

export const frothMlOf = ({ coarseMl, fineMl }: Froth): number => coarseMl + fineMl

/** What is left after so many seconds of rest. */
export function settled({ coarseMl, fineMl }: Froth, restS: number): Froth {
  return { coarseMl: coarseMl * Math.exp(-restS / COARSE_S), fineMl: fineMl * Math.exp(-restS / FINE_S) }
}

/** After so many seconds of work, which can raise at most `mostMl`; it beats down nothing that stands already. */
function raised(before: Froth, mostMl: number, workS: number): Froth {
  const towards = (now: number, most: number) => Math.max(now, most + (now - most) * Math.exp(-workS / RISE_S))
  return {
    coarseMl: towards(before.coarseMl, mostMl * COARSE_SHARE),
    fineMl: towards(before.fineMl, mostMl * (1 - COARSE_SHARE)),
  }
}

export interface FrothPace {
  durationS: number
  bursts?: number | undefined
  restS?: number | undefined
}

/** After work in bursts with rests between them. */
export function worked(before: Froth, mostMl: number, { durationS, bursts = 1, restS = 0 }: FrothPace): Froth {
  let now = before
  for (let burst = 0; burst < bursts; burst++) {
    if (burst > 0) now = settled(now, restS)
    now = raised(now, mostMl, durationS / bursts)
  }
  return now
}

/** The froth that goes on after a stage, poured as it says. */
export function frothAfter(stage: ResolvedStage, before: Froth, mostFoamMl: number, durationS: number): Froth {
  const frothing = stage.method ? METHODS[stage.method].frothing : 0
  const { bursts, restS } = stage.parameters
  const now = worked(before, mostFoamMl * frothing, { durationS, bursts, restS })
  const through = stage.inGlass ? 1 : POURS[stage.pour].frothThroughFraction
  return { coarseMl: now.coarseMl * through, fineMl: now.fineMl * through }
}

/** Pause between bursts that a hand makes, s, and the most bursts that anybody makes. */
export const BURST_PAUSE_S = 5
const MOST_BURSTS = 3
const LONGEST_STAND_S = 120

/** What keeps froth under the brim: bursts of so many seconds, or standing for so long; neither where nothing does. */
export type FrothAdvice =
  | { bursts: number; burstS: number; standS?: undefined }
  | { standS: number; bursts?: undefined }
  | undefined

/**
 * The fewest bursts that leave no more than a share of the froth that one makes; where none do, how long it has to stand.
 * @param worksS seconds of work in one go; undefined where it is in bursts already
 * @param fitsShare of the froth at hand-over, what there is room for
 */
export function frothAdvice(worksS: number | undefined, handOverS: number, fitsShare: number): FrothAdvice {
  const leftOf = (pace: FrothPace, restS: number) => frothMlOf(settled(worked(NO_FROTH, 1, pace), restS))
  const one = leftOf({ durationS: worksS ?? RISE_S }, handOverS)
  if (worksS !== undefined)
    for (let bursts = 2; bursts <= MOST_BURSTS; bursts++) {
      const left = leftOf({ durationS: worksS, bursts, restS: BURST_PAUSE_S }, handOverS)
      if (left <= fitsShare * one) return { bursts, burstS: worksS / bursts }
    }
  for (let standS = 5; standS <= LONGEST_STAND_S; standS += 5)
    if (leftOf({ durationS: worksS ?? RISE_S }, handOverS + standS) <= fitsShare * one) return { standS }
  return undefined
}
