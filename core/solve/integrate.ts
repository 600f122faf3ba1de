/** Integration with a step that is as long as its error allows, events found, and samples between the steps. */

import { type Derivative, explicitSteps, implicitSteps } from './steps.ts'

/** The last step may be so much longer than the others: its error stays within what is allowed. */
const LAST_STEP = 1.1

/** A step is not made smaller than this, s. */
const LEAST_STEP_S = 1e-9

export interface IntegrateOptions {
  /** The state at time 0. */
  start: ArrayLike<number>
  endS: number
  derivative: Derivative
  /** For what goes on slowly for long: implicit steps, solved in these components, which rates depend on. */
  settledIn?: readonly number[]
  /** Absolute error allowed in a step, per component. */
  tolerance: readonly number[]
  /** Stop when this falls to zero or below; it must be positive at the start. */
  until?: (y: Float64Array) => number
  /** Asked of every state that is arrived at: the first that is not within ends it, with outcome `left`. */
  isWithin?: (y: Float64Array) => boolean
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
  state: Float64Array
  /** One per `sampleS` reached. */
  samples: { timeS: number; state: Float64Array }[]
  steps: number
}

/**
 * Integrates an autonomous system from 0 to `endS`, or until `until` falls to zero. Where a step leads out of
 * what the derivative knows (it answers NaN), a smaller one is tried.
 */
export function integrate(options: IntegrateOptions): Integration {
  const { endS, derivative, tolerance, settledIn, until, isWithin, sampleS = [], maxSteps = 20_000 } = options
  const y = Float64Array.from(options.start)
  let timeS = 0
  let stepS = Math.min(options.firstStepS ?? 0.02, endS)
  const samples: Integration['samples'] = []
  let nextSample = 0
  while (nextSample < sampleS.length && (sampleS[nextSample] as number) <= 0) {
    samples.push({ timeS: 0, state: y.slice() })
    nextSample++
  }
  const stepping = { start: y, derivative, tolerance }
  const steps = settledIn ? implicitSteps({ ...stepping, dependsOn: settledIn }) : explicitSteps(stepping)
  const { next: trial, ratesBefore } = steps
  const power = -1 / steps.order

  /** Between the step's ends, at the share u of it: cubic Hermite, and what the step knows beyond. */
  const between = (h: number, u: number): Float64Array => {
    const after = steps.ratesAfter()
    const v = 1 - u
    const out = new Float64Array(y.length)
    for (let i = 0; i < y.length; i++) {
      const d0 = h * (ratesBefore[i] as number)
      const d1 = h * (after[i] as number)
      const [y0, y1] = [y[i] as number, trial[i] as number]
      out[i] =
        v * v * (1 + 2 * u) * y0 + u * u * (3 - 2 * u) * y1 + u * v * (v * d0 - u * d1 + u * v * h * steps.bend(i))
    }
    return out
  }

  for (let count = 1; count <= maxSteps; count++) {
    if (timeS >= endS) return { outcome: 'reachedEnd', timeS, state: y.slice(), samples, steps: count - 1 }
    const leftS = endS - timeS
    let h = leftS < stepS * LAST_STEP ? leftS : stepS
    const error = steps.take(y, h)
    if (Number.isNaN(error)) {
      if (h < LEAST_STEP_S) return { outcome: 'stuck', timeS, state: y.slice(), samples, steps: count }
      stepS = h * 0.2
      continue
    }
    if (error > 1 && h > LEAST_STEP_S) {
      stepS = h * Math.max(0.2, 0.9 * error ** power)
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
      steps.take(y, h)
    }
    if (isWithin && !isWithin(trial)) {
      return { outcome: 'left', timeS: timeS + h, state: trial.slice(), samples, steps: count }
    }
    while (nextSample < sampleS.length && (sampleS[nextSample] as number) <= timeS + h + 1e-12) {
      const wantedS = sampleS[nextSample] as number
      const state = h > 0 ? between(h, Math.min(1, (wantedS - timeS) / h)) : y.slice()
      samples.push({ timeS: wantedS, state })
      nextSample++
    }
    timeS += h
    if (endS - timeS < 1e-12) timeS = Math.max(timeS, endS)
    for (let i = 0; i < y.length; i++) y[i] = trial[i] as number
    if (stops) return { outcome: 'stopped', timeS, state: y.slice(), samples, steps: count }
    steps.accept()
    stepS = h * Math.min(4, 0.9 * Math.max(error, 1e-8) ** power)
  }
  return { outcome: 'maxSteps', timeS, state: y.slice(), samples, steps: maxSteps }
}
