/** How a fit ended. `atBound`: converged with a parameter at the end of what is allowed. */
export interface FitResult {
  outcome: 'converged' | 'atBound' | 'maxIterations'
  values: number[]
  /** Half the sum of squared residuals. */
  cost: number
  residuals: number[]
  /** Of the values, for residuals of unit variance: the inverse of JᵀJ at the end. */
  covariance: number[][]
  iterations: number
}

export interface FitOptions {
  start: readonly number[]
  low: readonly number[]
  high: readonly number[]
  /** Relative step of the numerical derivative. Default 1e-4 of the allowed width. */
  derivativeStep?: number
  /** Default 60. */
  maxIterations?: number
}

const SMALLEST_GAIN = 1e-10

/**
 * Least squares within bounds: Levenberg–Marquardt (Levenberg 1944, Marquardt 1963) with steps
 * clipped to the box and derivatives by differences. For a handful of parameters.
 * @param residualsOf residuals at a point, each divided by its standard deviation; always as many
 */
export function fitLeastSquares(
  residualsOf: (values: readonly number[]) => number[],
  { start, low, high, derivativeStep = 1e-4, maxIterations = 60 }: FitOptions,
): FitResult {
  const n = start.length
  const clip = (v: number, i: number) => Math.min(high[i] as number, Math.max(low[i] as number, v))
  let values = start.map(clip)
  let residuals = residualsOf(values)
  let cost = halfSquare(residuals)
  let damping = 1e-2
  let isDone = false
  let iterations = 0
  for (; iterations < maxIterations && !isDone; iterations++) {
    const jacobian = jacobianAt(residualsOf, values, residuals, low, high, derivativeStep)
    const normal = normalMatrix(jacobian, n)
    const gradient = values.map((_, i) =>
      jacobian.reduce((sum, row, k) => sum + (row[i] as number) * (residuals[k] as number), 0),
    )
    isDone = true
    for (let tries = 0; tries < 12; tries++) {
      const damped = normal.map((row, i) => row.map((v, j) => (i === j ? v * (1 + damping) + 1e-12 : v)))
      const step = solveLinear(
        damped,
        gradient.map((g) => -g),
      )
      const next = values.map((v, i) => clip(v + (step[i] as number), i))
      const nextResiduals = residualsOf(next)
      const nextCost = halfSquare(nextResiduals)
      if (nextCost < cost) {
        isDone = cost - nextCost < SMALLEST_GAIN * (1 + cost)
        values = next
        residuals = nextResiduals
        cost = nextCost
        damping = Math.max(1e-9, damping / 5)
        break
      }
      damping *= 6
    }
  }
  const covariance = inverse(normalMatrix(jacobianAt(residualsOf, values, residuals, low, high, derivativeStep), n))
  const isAtBound = values.some((v, i) => v <= (low[i] as number) || v >= (high[i] as number))
  const outcome = !isDone ? 'maxIterations' : isAtBound ? 'atBound' : 'converged'
  return { outcome, values, cost, residuals, covariance, iterations }
}

function halfSquare(residuals: readonly number[]): number {
  return residuals.reduce((sum, r) => sum + r * r, 0) / 2
}

/** Rows by residual, columns by value; one-sided, away from a bound that is near. */
function jacobianAt(
  residualsOf: (values: readonly number[]) => number[],
  values: readonly number[],
  at: readonly number[],
  low: readonly number[],
  high: readonly number[],
  step: number,
): number[][] {
  const columns = values.map((v, i) => {
    const width = (high[i] as number) - (low[i] as number)
    const h = v + step * width > (high[i] as number) ? -step * width : step * width
    const moved = residualsOf(values.map((u, j) => (i === j ? u + h : u)))
    return moved.map((r, k) => (r - (at[k] as number)) / h)
  })
  return at.map((_, k) => columns.map((c) => c[k] as number))
}

function normalMatrix(jacobian: readonly number[][], n: number): number[][] {
  return Array.from({ length: n }, (_, i) =>
    Array.from({ length: n }, (_, j) =>
      jacobian.reduce((sum, row) => sum + (row[i] as number) * (row[j] as number), 0),
    ),
  )
}

/** Gauss–Jordan with pivoting; a matrix without inverse is helped by a breath on its diagonal. */
export function solveLinear(matrix: readonly number[][], right: readonly number[]): number[] {
  const n = right.length
  const rows = matrix.map((row, i) => [...row, right[i] as number])
  for (let c = 0; c < n; c++) {
    let pivot = c
    for (let r = c + 1; r < n; r++)
      if (Math.abs(rows[r]?.[c] as number) > Math.abs(rows[pivot]?.[c] as number)) pivot = r
    ;[rows[c], rows[pivot]] = [rows[pivot] as number[], rows[c] as number[]]
    const row = rows[c] as number[]
    if (Math.abs(row[c] as number) < 1e-14) row[c] = 1e-14
    for (let r = 0; r < n; r++) {
      if (r === c) continue
      const other = rows[r] as number[]
      const factor = (other[c] as number) / (row[c] as number)
      for (let k = c; k <= n; k++) other[k] = (other[k] as number) - factor * (row[k] as number)
    }
  }
  return rows.map((row, i) => (row[n] as number) / (row[i] as number))
}

function inverse(matrix: readonly number[][]): number[][] {
  const columns = matrix.map((_, i) =>
    solveLinear(
      matrix,
      matrix.map((_, j) => (i === j ? 1 : 0)),
    ),
  )
  return matrix.map((_, r) => columns.map((c) => c[r] as number))
}

/** Student's t below which 95 % lie, so that 90 % lie within ± it: by degrees of freedom. */
const T_95 = [6.314, 2.92, 2.353, 2.132, 2.015, 1.943, 1.895, 1.86, 1.833, 1.812, 1.796, 1.782, 1.771, 1.761, 1.753]

/** Half width of a 90 % interval in standard deviations. @param freedom degrees of freedom, 1 or more */
export function tFor90Pct(freedom: number): number {
  const whole = Math.max(1, Math.floor(freedom))
  return T_95[whole - 1] ?? 1.645 + 1.62 / whole
}
