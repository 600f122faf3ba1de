import { predictTrial, type StationFigures, type Trial } from '@conch/core/cold'
import type { Well } from '@conch/core/house'
import { massGOf } from '@conch/core/liquid'

export type MeasuredIce = Well['ice']

/** The water that a trial added, g: as weighed, with what the model says stayed on the ice, and as figures have it. */
export function waterOf(
  t: Trial,
  figures: StationFigures,
  measuredIce: MeasuredIce,
): { measuredG: number; fittedG: number } {
  const p = predictTrial(t.document, figures, measuredIce)
  return { measuredG: t.document.afterG - p.afterG + p.addedG, fittedG: p.addedG }
}

/** Grams for 100 g of liquid: trials are not all of one size. */
export const per100G = (g: number, t: Trial): number => (100 * g) / massGOf(t.document.liquid)
