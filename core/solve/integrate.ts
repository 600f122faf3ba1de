/**
 * Dormand–Prince 5(4): an explicit Runge–Kutta pair with its own error estimate (Dormand and
 * Prince, 1980). Chosen because a chill starts fast and ends slow, so that a fixed step is either
 * wrong or wasteful; and because any Runge–Kutta step keeps linear sums of the state (our mass and
 * energy) exactly. Six evaluations a step.
 */

const A = [
  [],
  [1 / 5],
  [3 / 40, 9 / 40],
  [44 / 45, -56 / 15, 32 / 9],
  [19372 / 6561, -25360 / 2187, 64448 / 6561, -212 / 729],
  [9017 / 3168, -355 / 33, 46732 / 5247, 49 / 176, -5103 / 18656],
  [35 / 384, 0, 500 / 1113, 125 / 192, -2187 / 6784, 11 / 84],
] as const

/** Fifth-order minus fourth-order weights: the error of a step. */
const E = [71 / 57600, 0, -71 / 16695, 71 / 1920, -17253 / 339200, 22 / 525, -1 / 40] as const

/** A step is not made smaller than this, s. */
const LEAST_STEP_S = 1e-9

export interface IntegrateOptions {
  /** The state at time 0. */
  start: ArrayLike<number>
  endS: number
  /** Writes dy/dt into `out`. Autonomous: time does not come in. */
  derivative: (y: ArrayLike<number>, out: Float64Array) => void
  /** Absolute error allowed in a step, per component. */
  tolerance: readonly number[]
  /** Stop when this falls to zero or below; it must be positive at the start. */
  until?: (y: ArrayLike<number>) => number
  /** Asked of every state that is arrived at: the first that is not within ends it, with outcome `left`. */
  isWithin?: (y: ArrayLike<number>) => boolean
  /** Times at which the state is wanted, rising, within 0..endS. */
  sampleS?: readonly number[]
  firstStepS?: number
  /** Default 20000. */
  maxSteps?: number
}

export interface Integration {
  /** `stuck`: however small the step, the derivative is no number. */
  outcome: 'reachedEnd' | 'stopped' | 'left' | 'maxSteps' | 'stuck'
  timeS: number
  state: number[]
  /** One per `sampleS` reached. */
  samples: { timeS: number; state: number[] }[]
  steps: number
}

/**
 * Integrates an autonomous system from 0 to `endS`, or until `until` falls to zero. Where a step leads out of
 * what the derivative knows (it answers NaN), a smaller one is tried.
 */
export function integrate(options: IntegrateOptions): Integration {
  const { endS, derivative, tolerance, until, isWithin, sampleS = [], maxSteps = 20_000 } = options
  const n = options.start.length
  const y = Float64Array.from(options.start)
  let timeS = 0
  let stepS = Math.min(options.firstStepS ?? 0.02, endS)
  const k = Array.from({ length: 7 }, () => new Float64Array(n))
  const samples: Integration['samples'] = []
  const trial = new Float64Array(n)
  let nextSample = 0
  while (nextSample < sampleS.length && (sampleS[nextSample] as number) <= 0) {
    samples.push({ timeS: 0, state: Array.from(y) })
    nextSample++
  }
  derivative(y, k[0] as Float64Array)

  /** Takes a step of h from y; leaves the new state in `trial` and its derivative in k[6]. */
  const take = (h: number): number => {
    for (let s = 1; s < 7; s++) {
      const row = A[s] as readonly number[]
      for (let i = 0; i < n; i++) {
        let sum = 0
        for (let j = 0; j < s; j++) sum += (row[j] as number) * ((k[j] as Float64Array)[i] as number)
        trial[i] = (y[i] as number) + h * sum
      }
      derivative(trial, k[s] as Float64Array)
    }
    let error = 0
    for (let i = 0; i < n; i++) {
      let sum = 0
      for (let j = 0; j < 7; j++) sum += (E[j] as number) * ((k[j] as Float64Array)[i] as number)
      error = Math.max(error, Math.abs(h * sum) / (tolerance[i] as number)) // NaN stays NaN
    }
    return error
  }

  /** Cubic Hermite between the step's ends, at the share u of it. */
  const between = (h: number, u: number): number[] =>
    Array.from(y, (y0, i) => {
      const y1 = trial[i] as number
      const d0 = h * ((k[0] as Float64Array)[i] as number)
      const d1 = h * ((k[6] as Float64Array)[i] as number)
      const v = 1 - u
      return v * v * (1 + 2 * u) * y0 + u * u * (3 - 2 * u) * y1 + u * v * (v * d0 - u * d1)
    })

  for (let steps = 1; steps <= maxSteps; steps++) {
    if (timeS >= endS) return { outcome: 'reachedEnd', timeS, state: Array.from(y), samples, steps: steps - 1 }
    let h = Math.min(stepS, endS - timeS)
    const error = take(h)
    if (Number.isNaN(error)) {
      if (h < LEAST_STEP_S) return { outcome: 'stuck', timeS, state: Array.from(y), samples, steps }
      stepS = h * 0.2
      continue
    }
    if (error > 1 && h > LEAST_STEP_S) {
      stepS = h * Math.max(0.2, 0.9 * error ** -0.2)
      continue
    }
    const stops = until !== undefined && until(trial) <= 0
    if (stops) {
      // Where in the step it falls to zero: bisect on the interpolant, then take that step for real.
      let low = 0
      let high = 1
      for (let i = 0; i < 50; i++) {
        const middle = (low + high) / 2
        if (until(between(h, middle)) > 0) low = middle
        else high = middle
      }
      h *= high
      take(h)
    }
    if (isWithin && !isWithin(trial)) {
      return { outcome: 'left', timeS: timeS + h, state: Array.from(trial), samples, steps }
    }
    while (nextSample < sampleS.length && (sampleS[nextSample] as number) <= timeS + h + 1e-12) {
      const at = sampleS[nextSample] as number
      const state = h > 0 ? between(h, Math.min(1, (at - timeS) / h)) : Array.from(y)
      samples.push({ timeS: at, state })
      nextSample++
    }
    timeS += h
    if (endS - timeS < 1e-12) timeS = Math.max(timeS, endS)
    y.set(trial)
    if (stops) return { outcome: 'stopped', timeS, state: Array.from(y), samples, steps }
    k[0]?.set(k[6] as Float64Array)
    stepS = h * Math.min(4, 0.9 * Math.max(error, 1e-8) ** -0.2)
  }
  return { outcome: 'maxSteps', timeS, state: Array.from(y), samples, steps: maxSteps }
}
