import { predictTrial, type StationFigures, type Trial } from '@conch/core/calibration'
import type { Well } from '@conch/core/house'
import { massGOf } from '@conch/core/liquid'

export type MeasuredIce = Well['ice']

export interface TrialWater {
  measuredG: number
  fittedG: number
  offG: number
}

/**
 * The water that a trial added, g: as weighed, with what the model says stayed on the ice, and as figures have it.
 * Undefined where the model says nothing.
 */
export function waterOf(t: Trial, figures: StationFigures, measuredIce: MeasuredIce): TrialWater | undefined {
  const p = predictTrial(t.document, figures, measuredIce)
  if (!p) return undefined
  const offG = t.document.afterG - p.afterG
  return { measuredG: p.addedG + offG, fittedG: p.addedG, offG }
}

/** Grams for 100 g of liquid: trials are not all of one size. */
export const per100G = (g: number, t: Trial): number => (100 * g) / massGOf(t.document.liquid)
