/** How a search for a root ended, with what it found. */
export type RootResult =
  | { outcome: 'converged'; value: number; residual: number; iterations: number }
  | { outcome: 'maxIterations'; value: number; residual: number; iterations: number }
  | { outcome: 'noBracket'; atLow: number; atHigh: number; iterations: 0 }

export interface BisectOptions {
  /** Stop when the bracket is narrower than this (absolute, in x). Default 1e-9. */
  tolerance?: number
  /** Default 200. */
  maxIterations?: number
}

/**
 * A root of a continuous function on [low, high] by bisection: slow, but it cannot leave the
 * bracket and needs no derivative; every curve we invert here has kinks.
 * @returns `noBracket` when both ends have the same sign: there may be no root, none was looked for
 */
export function bisect(
  f: (x: number) => number,
  low: number,
  high: number,
  { tolerance = 1e-9, maxIterations = 200 }: BisectOptions = {},
): RootResult {
  let a = low
  let b = high
  const atLow = f(a)
  const atHigh = f(b)
  if (atLow === 0) return { outcome: 'converged', value: a, residual: 0, iterations: 0 }
  if (atHigh === 0) return { outcome: 'converged', value: b, residual: 0, iterations: 0 }
  if (!(atLow < 0 !== atHigh < 0) || Number.isNaN(atLow) || Number.isNaN(atHigh)) {
    return { outcome: 'noBracket', atLow, atHigh, iterations: 0 }
  }
  const risesToHigh = atLow < 0
  let residual = atHigh
  for (let iterations = 1; iterations <= maxIterations; iterations++) {
    const middle = a + (b - a) / 2
    residual = f(middle)
    if (residual === 0 || b - a < 2 * tolerance || middle === a || middle === b) {
      return { outcome: 'converged', value: middle, residual, iterations }
    }
    if (residual < 0 === risesToHigh) a = middle
    else b = middle
  }
  return { outcome: 'maxIterations', value: a + (b - a) / 2, residual, iterations: maxIterations }
}
