/** What froth, bubbles and the gear do to a glass, in words. */

import { METHODS } from '../cold/index.ts'
import type { Say } from './consequence.ts'
import { BURST_PAUSE_S, frothAdvice } from './froth.ts'
import type { DrinkResult } from './report.ts'
import type { ResolvedDrink } from './resolve.ts'

/** Less froth above the brim than this stays there, ml. */
const LEAST_FROTH_OVER_ML = 5
const NUMBERS: Record<number, string> = { 2: 'two', 3: 'three' }

/** Froth that runs over, with what keeps it under the brim; and what stands on the drink. */
export function sayOfFroth(drink: ResolvedDrink, { glass }: DrinkResult, say: Say): void {
  if (!glass?.froth) return
  const { fill, froth } = glass
  const isAssumed = froth.assumed.length > 0 ? ', assumed' : ''
  const aboveMl = fill.foamAboveBrimMl ?? 0
  if (aboveMl < LEAST_FROTH_OVER_ML) {
    const heightMm = (fill.foamTopMm ?? 0) - fill.washLineMm
    const later = heightMm * (froth.after1MinMl / froth.atHandOverMl)
    if (heightMm >= 2)
      say(
        'note',
        'foam',
        `froths: ${heightMm.toFixed(0)} mm at hand-over, ${later.toFixed(0)} mm a minute later${isAssumed}`,
      )
    return
  }
  const last = [...drink.stages].reverse().find((s) => s.method && METHODS[s.method].frothing > 0)
  const { bursts = 1, durationS = 0 } = last?.parameters ?? {}
  const fits = (froth.atHandOverMl - aboveMl) / froth.atHandOverMl
  const advice = frothAdvice(bursts > 1 ? undefined : durationS, drink.handOverS, fits)
  const words = advice?.bursts
    ? `${NUMBERS[advice.bursts]} bursts of ${Number(advice.burstS.toFixed(1))} s, ${BURST_PAUSE_S} s apart`
    : advice
      ? `let it stand ${advice.standS} s before you pour`
      : 'a larger glass, or less of what froths'
  say('mind', 'foam', `foams ${Math.round(aboveMl)} ml over the brim${isAssumed}: ${words}`)
}

/** Bubbles do not outlive a tin, and a tin may not outlive them. */
export function sayOfSoda(drink: ResolvedDrink, say: Say): void {
  const first = drink.stages[0]
  if (!first || first.inGlass || !first.method || first.method === 'stir') return
  const fizzy = drink.pours.filter((p) => p.into === 'tin' && p.ingredient?.kind === 'soda').map((p) => p.name)
  if (fizzy.length > 0)
    say(
      'stop',
      'sodaShaken',
      `${[...new Set(fizzy)].join(', ')} is in the tin and would be ${METHODS[first.method].label}: a closed tin bursts open; pour it into the glass`,
      true,
    )
}

/** How far off the dilution may be, and why: nobody tried this gear, or only with much more or less in it. */
export function howSure(drink: ResolvedDrink, { dilutionUncertaintyFraction, beforeIce }: DrinkResult): string {
  const off = `dilution ±${Math.round(100 * dilutionUncertaintyFraction)} %`
  const known = drink.stages.flatMap((s) => (s.calibration?.volumesMl ? [s.calibration.volumesMl] : []))
  if (drink.stages.some((s) => s.method && !s.calibration) || known.length === 0) return `uncalibrated: ${off}`
  const [low, high] = [Math.min(...known.map((v) => v.lowMl)), Math.max(...known.map((v) => v.highMl))]
  return `${off}: its trials were of ${Math.round(low)} to ${Math.round(high)} ml, this is ${Math.round(beforeIce.volumeMl)}`
}
