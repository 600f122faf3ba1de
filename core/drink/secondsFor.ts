import { METHODS } from '../cold/index.ts'
import type { HouseBook } from '../house/index.ts'
import { bisect } from '../solve/index.ts'
import { computeDrink } from './computeDrink.ts'
import { resolveDrink } from './resolve.ts'
import type { DrinkDocument } from './schema.ts'
import type { MeasureName, Predictions } from './standard.ts'

/** How the search for seconds ended. `cannotBeReached`: at any of the seconds tried it stays on one side. */
export type SecondsFor =
  | { outcome: 'reached'; durationS: number; predictions: Predictions }
  | { outcome: 'cannotBeReached'; atFewest: number; atMost: number; fewestS: number; mostS: number }
  | { outcome: 'noStage' }
  /** At the fewest or the most seconds tried it cannot be computed. */
  | { outcome: 'outsideModel' }

/** Nobody stops a mixer sooner, s; and longer than this many times the spec is another drink. */
const FEWEST_S = 0.5
const MOST_TIMES = 4
/** A hand and a clock, s. */
const TOLERANCE_S = 0.01

/** The seconds of the first stage at a well: its own, else the spec's, else the method's usual. */
export function secondsAt(document: DrinkDocument, well: string): number | undefined {
  const stage = document.stages[0]
  if (!stage) return undefined
  const usual = stage.method && METHODS[stage.method].usual.durationS
  return stage.byWell?.[well]?.durationS ?? stage.parameters?.durationS ?? stage.durationS ?? usual
}

/** A spec with other seconds in its first stage, at one well. */
export function withSeconds(document: DrinkDocument, well: string, durationS: number): DrinkDocument {
  const stages = document.stages.map((stage, i) => {
    if (i > 0) return stage
    const { durationS: _, ...parameters } = stage.parameters ?? {}
    const own = { ...stage.byWell?.[well], durationS }
    return {
      ...stage,
      byWell: { ...stage.byWell, [well]: own },
      ...(stage.parameters ? { parameters } : {}),
    }
  })
  return { ...document, stages }
}

/**
 * The seconds of the first stage that bring one measure of the glass to a value, all else as written.
 * @param value in the measure's unit
 */
export function secondsFor(
  document: DrinkDocument,
  book: HouseBook,
  well: string,
  measure: MeasureName,
  value: number,
): SecondsFor {
  const now = secondsAt(document, well)
  if (now === undefined) return { outcome: 'noStage' }
  const at = (durationS: number): Predictions | undefined => {
    const resolution = resolveDrink(withSeconds(document, well, durationS), book, well)
    const computed = resolution.ok ? computeDrink(resolution.drink) : undefined
    return computed?.ok ? computed.result.predictions : undefined
  }
  const off = (durationS: number) => (at(durationS)?.[measure]?.value ?? Number.NaN) - value
  const mostS = Math.min(120, Math.max(FEWEST_S * 2, now * MOST_TIMES))
  const found = bisect(off, FEWEST_S, mostS, { tolerance: TOLERANCE_S })
  if (found.outcome === 'noBracket' && Number.isNaN(found.atLow + found.atHigh)) return { outcome: 'outsideModel' }
  if (found.outcome === 'noBracket')
    return {
      outcome: 'cannotBeReached',
      atFewest: found.atLow + value,
      atMost: found.atHigh + value,
      fewestS: FEWEST_S,
      mostS,
    }
  return { outcome: 'reached', durationS: found.value, predictions: at(found.value) ?? {} }
}
