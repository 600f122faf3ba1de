/** Single steps of integration methods: what a controller needs of them, and the two that there are. */

/** Writes dy/dt into `out`. Autonomous: time does not come in. */
export type Derivative = (y: Float64Array, out: Float64Array) => void

export interface Stepper {
  /** A step's error falls with this power of its length. */
  readonly order: number
  /** Where the step taken last leads. */
  readonly next: Float64Array
  /** Rates at its beginning, and at its end. */
  readonly ratesBefore: Float64Array
  ratesAfter: () => Float64Array
  /** How much a component bends within the step beyond the cubic that its ends and rates define, as a share of h. */
  bend: (i: number) => number
  /** Takes a step of h seconds from y. @returns the largest error in it over the tolerance; NaN where there are no rates */
  take: (y: Float64Array, h: number) => number
  /** Goes on from the end of the step taken last. */
  accept: () => void
}

export interface StepperOptions {
  start: Float64Array
  derivative: Derivative
  /** Absolute error allowed in a step, per component. */
  tolerance: readonly number[]
}

const at = (of: Float64Array, i: number) => of[i] as number

/**
 * Dormand–Prince 5(4), an explicit Runge–Kutta pair with its own error estimate (Dormand and Prince, 1980): for what starts
 * fast and ends slow. Six evaluations a step; linear sums of the state (our mass and energy) are kept exactly.
 */
export function explicitSteps({ start, derivative, tolerance }: StepperOptions): Stepper {
  const n = start.length
  const rates = () => new Float64Array(n)
  const [k1, k2, k3, k4, k5, k6, k7, next] = [rates(), rates(), rates(), rates(), rates(), rates(), rates(), rates()]
  const strictness = rates()
  for (let i = 0; i < n; i++) strictness[i] = 1 / (tolerance[i] as number)
  derivative(start, k1)
  return {
    order: 5,
    next,
    ratesBefore: k1,
    ratesAfter: () => k7,
    // Of fourth order within the step, too (Hairer, Nørsett and Wanner, 1993).
    bend: (i) =>
      (-12715105075 / 11282082432) * at(k1, i) +
      (87487479700 / 32700410799) * at(k3, i) -
      (10690763975 / 1880347072) * at(k4, i) +
      (701980252875 / 199316789632) * at(k5, i) -
      (1453857185 / 822651844) * at(k6, i) +
      (69997945 / 29380423) * at(k7, i),
    // Written out: it is asked by the million.
    take: (y, h) => {
      for (let i = 0; i < n; i++) next[i] = at(y, i) + h * (1 / 5) * at(k1, i)
      derivative(next, k2)
      for (let i = 0; i < n; i++) next[i] = at(y, i) + h * ((3 / 40) * at(k1, i) + (9 / 40) * at(k2, i))
      derivative(next, k3)
      for (let i = 0; i < n; i++)
        next[i] = at(y, i) + h * ((44 / 45) * at(k1, i) - (56 / 15) * at(k2, i) + (32 / 9) * at(k3, i))
      derivative(next, k4)
      for (let i = 0; i < n; i++)
        next[i] =
          at(y, i) +
          h *
            ((19372 / 6561) * at(k1, i) -
              (25360 / 2187) * at(k2, i) +
              (64448 / 6561) * at(k3, i) -
              (212 / 729) * at(k4, i))
      derivative(next, k5)
      for (let i = 0; i < n; i++)
        next[i] =
          at(y, i) +
          h *
            ((9017 / 3168) * at(k1, i) -
              (355 / 33) * at(k2, i) +
              (46732 / 5247) * at(k3, i) +
              (49 / 176) * at(k4, i) -
              (5103 / 18656) * at(k5, i))
      derivative(next, k6)
      for (let i = 0; i < n; i++)
        next[i] =
          at(y, i) +
          h *
            ((35 / 384) * at(k1, i) +
              (500 / 1113) * at(k3, i) +
              (125 / 192) * at(k4, i) -
              (2187 / 6784) * at(k5, i) +
              (11 / 84) * at(k6, i))
      derivative(next, k7)
      let error = 0
      for (let i = 0; i < n; i++) {
        const sum =
          (71 / 57600) * at(k1, i) -
          (71 / 16695) * at(k3, i) +
          (71 / 1920) * at(k4, i) -
          (17253 / 339200) * at(k5, i) +
          (22 / 525) * at(k6, i) -
          (1 / 40) * at(k7, i)
        error = Math.max(error, Math.abs(sum) * at(strictness, i)) // NaN stays NaN
      }
      return h * error
    },
    accept: () => {
      for (let i = 0; i < n; i++) k1[i] = at(k7, i)
    },
  }
}

/** Of Kaps and Rentrop (1979) with Shampine's parameters (1982): fourth order, third-order error, stable however long the step. */
const GAMMA = 1 / 2
const [P21, P31, P32] = [2, 48 / 25, 6 / 25]
const [C21, C31, C32, C41, C42, C43] = [-8, 372 / 25, 12 / 5, -112 / 125, -54 / 125, -2 / 5]
const [B1, B2, B3, B4] = [19 / 9, 1 / 2, 25 / 108, 125 / 108]
const [D1, D2, D4] = [17 / 54, 7 / 36, 125 / 108]

/** A derivative is taken over this share of a component, or of 1. */
const DIFFERENCE = 1e-6

/**
 * A Rosenbrock method: for what has settled and goes on slowly for long, where an explicit step would be held to the time in
 * which small ice follows its liquid. Three evaluations a step and one for each component that rates depend on; linear sums
 * of the state are kept.
 * @param dependsOn the components that rates depend on; the others are only summed up
 */
export function implicitSteps({
  start,
  derivative,
  tolerance,
  dependsOn,
}: StepperOptions & { dependsOn: readonly number[] }): Stepper {
  const n = start.length
  const rates = () => new Float64Array(n)
  const [before, after, f, g1, g2, g3, g4, next, moved] = [
    rates(),
    rates(),
    rates(),
    rates(),
    rates(),
    rates(),
    rates(),
    rates(),
    rates(),
  ]
  const size = dependsOn.length
  const jacobian = dependsOn.map(rates)
  const factor = dependsOn.map(() => new Float64Array(size))
  const x = new Float64Array(size)
  let hasAfter = false

  const takeJacobian = (y: Float64Array) => {
    moved.set(y)
    for (let column = 0; column < size; column++) {
      const to = jacobian[column] as Float64Array
      const j = dependsOn[column] as number
      moved[j] = at(y, j) + DIFFERENCE * Math.max(1, Math.abs(at(y, j)))
      const over = at(moved, j) - at(y, j)
      derivative(moved, to)
      for (let i = 0; i < n; i++) to[i] = (at(to, i) - at(before, i)) / over
      moved[j] = at(y, j)
    }
  }
  derivative(start, before)
  takeJacobian(start)

  /** Of I/(γh) − J among the components that matter: lower and upper part in one, without pivots (the diagonal is large). */
  const takeFactor = (h: number) => {
    for (let row = 0; row < size; row++) {
      const to = factor[row] as Float64Array
      const i = dependsOn[row] as number
      for (let column = 0; column < size; column++) to[column] = -at(jacobian[column] as Float64Array, i)
      to[row] = at(to, row) + 1 / (GAMMA * h)
      for (let k = 0; k < row; k++) {
        const upper = factor[k] as Float64Array
        const share = at(to, k) / at(upper, k)
        to[k] = share
        for (let column = k + 1; column < size; column++) to[column] = at(to, column) - share * at(upper, column)
      }
    }
  }
  /** Solves (I/(γh) − J) g = right. */
  const solve = (h: number, right: Float64Array, g: Float64Array) => {
    for (let row = 0; row < size; row++) {
      const of = factor[row] as Float64Array
      let sum = at(right, dependsOn[row] as number)
      for (let k = 0; k < row; k++) sum -= at(of, k) * at(x, k)
      x[row] = sum
    }
    for (let row = size - 1; row >= 0; row--) {
      const of = factor[row] as Float64Array
      let sum = at(x, row)
      for (let k = row + 1; k < size; k++) sum -= at(of, k) * at(x, k)
      x[row] = sum / at(of, row)
    }
    for (let i = 0; i < n; i++) g[i] = GAMMA * h * at(right, i)
    for (let k = 0; k < size; k++) {
      const of = jacobian[k] as Float64Array
      const share = GAMMA * h * at(x, k)
      for (let i = 0; i < n; i++) g[i] = at(g, i) + share * at(of, i)
    }
    for (let row = 0; row < size; row++) g[dependsOn[row] as number] = at(x, row)
  }
  return {
    order: 4,
    next,
    ratesBefore: before,
    ratesAfter: () => {
      if (!hasAfter) derivative(next, after)
      hasAfter = true
      return after
    },
    bend: () => 0,
    take: (y, h) => {
      hasAfter = false
      takeFactor(h)
      solve(h, before, g1)
      for (let i = 0; i < n; i++) next[i] = at(y, i) + P21 * at(g1, i)
      derivative(next, f)
      for (let i = 0; i < n; i++) moved[i] = at(f, i) + (C21 * at(g1, i)) / h
      solve(h, moved, g2)
      for (let i = 0; i < n; i++) next[i] = at(y, i) + P31 * at(g1, i) + P32 * at(g2, i)
      derivative(next, f)
      for (let i = 0; i < n; i++) moved[i] = at(f, i) + (C31 * at(g1, i) + C32 * at(g2, i)) / h
      solve(h, moved, g3)
      for (let i = 0; i < n; i++) moved[i] = at(f, i) + (C41 * at(g1, i) + C42 * at(g2, i) + C43 * at(g3, i)) / h
      solve(h, moved, g4)
      let error = 0
      for (let i = 0; i < n; i++) {
        next[i] = at(y, i) + B1 * at(g1, i) + B2 * at(g2, i) + B3 * at(g3, i) + B4 * at(g4, i)
        const off = D1 * at(g1, i) + D2 * at(g2, i) + D4 * at(g4, i)
        error = Math.max(error, Math.abs(off) / (tolerance[i] as number)) // NaN stays NaN
      }
      return error
    },
    accept: () => {
      if (!hasAfter) derivative(next, after)
      before.set(after)
      takeJacobian(next)
    },
  }
}
