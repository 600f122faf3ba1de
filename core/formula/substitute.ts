import type { LiquidFigures } from '../liquid/index.ts'
import { type GridPour, nearestOnGrid } from '../measure/index.ts'

export interface Substitution {
  /** At equal sugar, before the jigger has its say, ml. */
  exactMl: number
  /** What can be poured. */
  pour: GridPour
  /** After minus before, in the drink. */
  volumeMl: number
  sugarG: number
  acidG: number
  alcoholMl: number
}

/**
 * Another syrup in place of one, at equal sugar: how much to pour, on what the house can measure.
 * @returns undefined when either brings no sugar: then equal sugar means nothing
 */
export function substituteAtEqualSugar(
  from: LiquidFigures,
  to: LiquidFigures,
  pouredMl: number,
  grid: readonly GridPour[],
): Substitution | undefined {
  if (!(from.sugarGPer100Ml > 0) || !(to.sugarGPer100Ml > 0)) return undefined
  const exactMl = (pouredMl * from.sugarGPer100Ml) / to.sugarGPer100Ml
  const pour = nearestOnGrid(exactMl, grid)
  if (!pour) return undefined
  const brings = (f: LiquidFigures, ml: number, key: keyof LiquidFigures) => ((f[key] ?? 0) * ml) / 100
  const change = (key: keyof LiquidFigures) => brings(to, pour.volumeMl, key) - brings(from, pouredMl, key)
  return {
    exactMl,
    pour,
    volumeMl: pour.volumeMl - pouredMl,
    sugarG: change('sugarGPer100Ml'),
    acidG: change('acidGPer100Ml'),
    alcoholMl: change('abvPct'),
  }
}
