import { interpolate, tableOf } from '../solve/interpolate.ts'

/** True density of sucrose solutions at 20 °C, g/ml, by °Bx (handbook table). */
const SUCROSE_DENSITY = tableOf('sucrose density', [
  [0, 0.9982],
  [10, 1.0381],
  [20, 1.081],
  [30, 1.127],
  [40, 1.1765],
  [50, 1.2296],
  [60, 1.2865],
  [65, 1.3163],
  [70, 1.3472],
])

/** °Bx at which sucrose saturates, at room temperature and in the fridge. */
export const SATURATION_BRIX = { at20C: 66.7, at4C: 64 } as const

/**
 * Density at 20 °C in g/ml of a sucrose solution.
 * @param brix grams of sugar per 100 g of solution, 0 to 70
 */
export function syrupDensityGPerMl(brix: number): number {
  if (!(brix >= 0 && brix <= 70)) throw new RangeError(`${brix} °Bx is not within 0 to 70`)
  return interpolate(SUCROSE_DENSITY, brix)
}

/** Grams of sugar per 100 ml of a syrup of this Brix (0 to 70). */
export function sugarGPer100MlOfBrix(brix: number): number {
  return brix * syrupDensityGPerMl(brix)
}
