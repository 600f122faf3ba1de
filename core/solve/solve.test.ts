import { describe, expect, it } from 'vitest'
import { bisect, integrate, interpolate, tableOf } from './index.ts'

describe('bisection', () => {
  it('finds a root and says so', () => {
    expect(bisect((x) => x * x - 2, 0, 2)).toMatchObject({ outcome: 'converged', value: expect.closeTo(Math.SQRT2, 8) })
    expect(bisect((x) => 1 - x, 0, 1)).toMatchObject({ outcome: 'converged', value: 1, iterations: 0 })
  })
  it('does not invent a root where the ends have one sign', () => {
    expect(bisect((x) => x * x + 1, 0, 1)).toEqual({ outcome: 'noBracket', atLow: 1, atHigh: 2, iterations: 0 })
  })
  it('knows the middle of a step as well as its end: half the step, a thirty-second of the error', () => {
    const errorAtMiddle = (stepS: number) => {
      const run = integrate({
        start: [1, 0],
        endS: stepS,
        derivative: (y, out) => {
          out[0] = -(y[1] as number)
          out[1] = y[0] as number
        },
        tolerance: [1, 1],
        firstStepS: stepS,
        sampleS: [0.4 * stepS],
      })
      expect(run.steps).toBe(1)
      return Math.abs((run.samples[0]?.state[0] as number) - Math.cos(0.4 * stepS))
    }
    expect(errorAtMiddle(0.4)).toBeLessThan(2e-6)
    expect(errorAtMiddle(0.8) / errorAtMiddle(0.4)).toBeGreaterThan(28)
  })

  it('says when it ran out of steps', () => {
    expect(bisect((x) => x - 0.3, 0, 1, { maxIterations: 3 })).toMatchObject({
      outcome: 'maxIterations',
      iterations: 3,
    })
  })
})

describe('a table', () => {
  it('is checked whole, naming the row', () => {
    expect(() =>
      tableOf('t', [
        [0, 1],
        [2, 3],
        [2, 4],
      ]),
    ).toThrow('table t: row 3 (x = 2) does not rise')
  })
  it('is linear between rows and goes on beyond them', () => {
    const table = tableOf('t', [
      [0, 0],
      [1, 10],
      [3, 20],
    ])
    expect([interpolate(table, 0.5), interpolate(table, 2), interpolate(table, 5)]).toEqual([5, 15, 30])
  })
})

describe('integration', () => {
  const decay = {
    start: [1, 0],
    derivative: (y: ArrayLike<number>, out: Float64Array) => {
      out[0] = -(y[0] as number)
      out[1] = y[0] as number
    },
    tolerance: [1e-8, 1e-8],
  }
  it('follows an exponential, samples it, and keeps the sum exactly', () => {
    const run = integrate({ ...decay, endS: 5, sampleS: [0, 1, 2.5, 5] })
    expect(run.outcome).toBe('reachedEnd')
    expect(run.state[0]).toBeCloseTo(Math.exp(-5), 7)
    expect((run.state[0] as number) + (run.state[1] as number)).toBeCloseTo(1, 14)
    expect(run.samples.map((s) => s.timeS)).toEqual([0, 1, 2.5, 5])
    expect(run.samples[2]?.state[0]).toBeCloseTo(Math.exp(-2.5), 4)
  })
  it('stops where the event is, not at the end of a step', () => {
    const run = integrate({ ...decay, endS: 50, until: (y) => (y[0] as number) - 0.5 })
    expect(run.outcome).toBe('stopped')
    expect(run.timeS).toBeCloseTo(Math.LN2, 4)
  })
  it('says when it ran out of steps, and when the derivative is no number however small the step', () => {
    expect(integrate({ ...decay, endS: 50, maxSteps: 2 }).outcome).toBe('maxSteps')
    const broken = {
      start: [1],
      endS: 1,
      tolerance: [1],
      derivative: (_: ArrayLike<number>, out: Float64Array) => {
        out[0] = Number.NaN
      },
    }
    expect(integrate(broken)).toMatchObject({ outcome: 'stuck', timeS: 0, state: Float64Array.of(1) })
  })
})
