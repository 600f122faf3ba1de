/**
 * Density of ethanol-water mixtures: OIML R 22, "International Alcoholometric Tables", general
 * formula. Valid for mass fractions 0 to 1 and temperatures −20 to 40 °C.
 */

import { bisect } from '../solve/bisect.ts'
import { PURE_ETHANOL_G_PER_ML } from './constants.ts'

/** A_k for p^(k−1), k = 1..12, kg/m³ at 20 °C. */
const A = [
  9.9820123e2, -1.929769495e2, 3.891238958e2, -1.668103923e3, 1.352215441e4, -8.829278388e4, 3.062874042e5,
  -6.138381234e5, 7.470172998e5, -5.478461354e5, 2.234460334e5, -3.903285426e4,
]

/** B_k for d^k, k = 1..6, d = temperature − 20 °C. */
const B = [-2.0618513e-1, -5.2682542e-3, 3.6130013e-5, -3.8957702e-7, 7.169354e-9, -9.9739231e-11]

/** C_{i,k} for p^k·d^i, i = 1..5. */
const C = [
  [
    1.693443461530087e-1, -1.046914743455169e1, 7.196353469546523e1, -7.047478054272792e2, 3.924090430035045e3,
    -1.210164659068747e4, 2.248646550400788e4, -2.605562982188164e4, 1.852373922069467e4, -7.420201433430137e3,
    1.285617841998974e3,
  ],
  [
    -1.19301300505701e-2, 2.517399633803461e-1, -2.170575700536993, 1.353034988843029e1, -5.029988758547014e1,
    1.09635566657757e2, -1.422753946421155e2, 1.08043594285623e2, -4.414153236817392e1, 7.442971530188783,
  ],
  [
    -6.802995733503803e-4, 1.876837790289664e-2, -2.002561813734156e-1, 1.02299296671922, -2.895696483903638,
    4.810060584300675, -4.672147440794683, 2.458043105903461, -5.411227621436812e-1,
  ],
  [4.075376675622027e-6, -8.76305857347111e-6, 6.515031360099368e-6, -1.51578483698721e-6],
  [-2.788074354782409e-8, 1.345612883493354e-8],
]

/** Σ c_k·x^k for k = 0..n−1, by Horner's rule. */
function polynomial(coefficients: readonly number[], x: number): number {
  let sum = 0
  for (let k = coefficients.length - 1; k >= 0; k--) sum = sum * x + (coefficients[k] as number)
  return sum
}

const DENSITY_RANGE_C = { low: -20, high: 40 } as const

/**
 * Density in g/ml of an ethanol-water mixture.
 * @param ethanolMassFraction 0 to 1 inclusive
 * @param temperatureC −20 to 40 inclusive; default 20
 * @throws RangeError outside either range: the formula says nothing there
 */
export function ethanolWaterDensityGPerMl(ethanolMassFraction: number, temperatureC = 20): number {
  const p = ethanolMassFraction
  if (!(p >= 0 && p <= 1)) throw new RangeError(`ethanol mass fraction ${p} is not within 0 to 1`)
  if (!(temperatureC >= DENSITY_RANGE_C.low && temperatureC <= DENSITY_RANGE_C.high)) {
    throw new RangeError(`temperature ${temperatureC} °C is not within −20 to 40 °C`)
  }
  let densityKgPerM3 = polynomial(A, p)
  const d = temperatureC - 20
  if (d !== 0) {
    densityKgPerM3 += d * polynomial(B, d)
    let dPower = 1
    for (const row of C) {
      dPower *= d
      densityKgPerM3 += dPower * p * polynomial(row, p)
    }
  }
  return densityKgPerM3 / 1000
}

/** Alcohol by volume at 20 °C, as a fraction 0 to 1, of an ethanol-water mixture. */
export function volumeFractionOf(ethanolMassFraction: number): number {
  return (ethanolMassFraction * ethanolWaterDensityGPerMl(ethanolMassFraction)) / PURE_ETHANOL_G_PER_ML
}

/**
 * Ethanol mass fraction of an ethanol-water mixture with this alcohol by volume at 20 °C.
 * Bisection on a monotonic curve, to 1e-12.
 * @param abvFraction 0 to 1 inclusive
 * @throws RangeError outside 0 to 1
 */
export function massFractionOf(abvFraction: number): number {
  if (!(abvFraction >= 0 && abvFraction <= 1)) {
    throw new RangeError(`alcohol by volume ${abvFraction} is not within 0 to 1`)
  }
  if (abvFraction === 0) return 0
  // The fitted density of pure ethanol rounds to 789.239 only within 1e-5: top of the range is 1.
  if (abvFraction >= volumeFractionOf(1)) return 1
  const found = bisect((p) => volumeFractionOf(p) - abvFraction, 0, 1, { tolerance: 1e-12 })
  if (found.outcome !== 'converged') throw new Error(`bug: alcohol table not inverted (${found.outcome})`)
  return found.value
}
