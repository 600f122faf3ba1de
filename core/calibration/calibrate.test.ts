import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { ICE_KINDS, METHODS } from '../cold/index.ts'
import { liquidFromFigures } from '../liquid/index.ts'
import { fitLeastSquares } from '../solve/index.ts'
import { anyNormal } from '../testing/random.ts'
import {
  type Calibration,
  type CalibrationStart,
  type CountedTrial,
  calibrate,
  driftOf,
  predictTrial,
  type StationFigures,
  type TrialDocument,
  trialProblems,
  unaccountedG,
} from './index.ts'
import { trialDocumentSchema } from './trialSchema.ts'

function liquid(volumeMl: number, abvPct = 20) {
  const made = liquidFromFigures(volumeMl, { abvPct, sugarGPer100Ml: 9, acidGPer100Ml: 1.2 })
  if (!made.ok) throw new Error(made.reason)
  return made.liquid
}

function trialOf(durationS: number, changes: Partial<TrialDocument> = {}): TrialDocument {
  return trialDocumentSchema.parse({
    method: 'flashBlend',
    liquid: liquid(130),
    beforeC: { value: 20, basis: 'measured' },
    ice: [
      { kind: 'crushed', massG: 120 },
      { kind: 'machineCube', massG: 45 },
    ],
    iceC: { value: -0.5, basis: 'assumed' },
    roomC: { value: 22, basis: 'measured' },
    vesselC: { value: 20, basis: 'measured' },
    gear: { vesselJPerK: 150, leakWPerK: 0.5, uaTimes: 1, powerTimes: 1 },
    durationS,
    afterG: 180,
    ...changes,
  })
}

const START: CalibrationStart = {
  method: 'flashBlend',
  ice: 'crushed',
  uaWPerK: METHODS.flashBlend.uaWPerK,
  stirringPowerW: METHODS.flashBlend.stirringPowerW,
  surfaceWaterFraction: ICE_KINDS.crushed.surfaceWaterFraction,
  measuredIce: {},
}
const SLOW: StationFigures = { uaWPerK: 300, surfaceWaterFraction: 0.11, stirringPowerW: 85 }

/** Trials as a hand, a scale and a thermometer would write them down on a station with these figures. */
function trialsOn(truth: StationFigures, seconds: readonly number[], seed: number): CountedTrial[] {
  const normal = anyNormal(seed)
  return seconds.map((durationS, i) => {
    const document = trialOf(durationS)
    const p = predictTrial(document, truth)
    if (!p) throw new Error('outside of the model')
    const massG = p.afterG + normal() * Math.hypot(1, 0.03 * p.addedG)
    return {
      id: i + 1,
      document: {
        ...document,
        afterG: Number(massG.toFixed(1)),
        afterC: Number((p.afterC + 0.8 * normal()).toFixed(1)),
      },
    }
  })
}

function fitted(found: Calibration): Exclude<Calibration, { outcome: 'tooFew' | 'outsideModel' }> {
  if (found.outcome === 'tooFew' || found.outcome === 'outsideModel') throw new Error(found.outcome)
  return found
}

describe('least squares within bounds', () => {
  it('finds a line through points, and says how sure of it', () => {
    const points = [0, 1, 2, 3, 4].map((x) => [x, 1 + 2 * x] as const)
    const found = fitLeastSquares((v) => points.map(([x, y]) => (v[0] as number) + (v[1] as number) * x - y), {
      start: [0, 0],
      low: [-10, -10],
      high: [10, 10],
    })
    expect(found.outcome).toBe('converged')
    expect(found.values[0]).toBeCloseTo(1, 6)
    expect(found.values[1]).toBeCloseTo(2, 6)
    // Textbook: variance of the slope of unit scatter is 1 / Σ(x − mean)².
    expect(found.covariance[1]?.[1]).toBeCloseTo(1 / 10, 4)
  })

  it('stays within its bounds, and says when it ends on one', () => {
    const found = fitLeastSquares((v) => [(v[0] as number) - 5], { start: [0], low: [-1], high: [2] })
    expect(found).toMatchObject({ outcome: 'atBound', values: [2] })
  })
})

describe('a calibration', () => {
  it('recovers what the trials were made with, within its interval, in at least 85 of 100 seeds', () => {
    const inside = { uaWPerK: 0, surfaceWaterFraction: 0, stirringPowerW: 0 }
    for (let seed = 1; seed <= 100; seed++) {
      const found = fitted(calibrate(trialsOn(SLOW, [2, 3, 4, 6, 8, 10], seed), START, { looksForOutliers: false }))
      for (const key of Object.keys(inside) as (keyof typeof inside)[]) {
        const estimate = found[key]
        if (estimate && estimate.low <= SLOW[key] && SLOW[key] <= estimate.high) inside[key]++
      }
    }
    expect(inside.uaWPerK).toBeGreaterThanOrEqual(85)
    expect(inside.surfaceWaterFraction).toBeGreaterThanOrEqual(85)
    expect(inside.stirringPowerW).toBeGreaterThanOrEqual(85)
  }, 60_000)

  it('holds also where truth is drawn anywhere near the preset, and without exact trials', () => {
    let inside = 0
    for (let seed = 1; seed <= 100; seed++) {
      const normal = anyNormal(1000 + seed)
      const truth = {
        uaWPerK: START.uaWPerK * Math.exp(0.4 * normal()),
        surfaceWaterFraction: START.surfaceWaterFraction * Math.exp(0.3 * normal()),
        stirringPowerW: START.stirringPowerW,
      }
      const found = fitted(calibrate(trialsOn(truth, [3, 3, 5, 5], seed), START, { looksForOutliers: false }))
      if (found.uaWPerK.low <= truth.uaWPerK && truth.uaWPerK <= found.uaWPerK.high) inside++
    }
    expect(inside).toBeGreaterThanOrEqual(85)
  }, 60_000)

  it('one trial moves nothing, two move away from the preset, four are trusted', () => {
    const trials = trialsOn(SLOW, [2, 4, 6, 9], 7)
    expect(calibrate(trials.slice(0, 1), START)).toEqual({ outcome: 'tooFew', trials: 1, needed: 2 })
    const two = fitted(calibrate(trials.slice(0, 2), START))
    expect(two.isTrusted).toBe(false)
    expect(two.uncertaintyFraction).toBeGreaterThanOrEqual(0.08)
    expect(two.uncertaintyFraction).toBeLessThan(METHODS.flashBlend.uncertaintyFraction)
    const four = fitted(calibrate(trials, START))
    expect(four.isTrusted).toBe(true)
    expect(four.uncertaintyFraction).toBeLessThan(two.uncertaintyFraction)
    expect(four.uaWPerK.high - four.uaWPerK.low).toBeLessThan(two.uaWPerK.high - two.uaWPerK.low)
  })

  it('asks about the motor only when trials of different seconds tell it from the ice', () => {
    expect(fitted(calibrate(trialsOn(SLOW, [4, 4, 4, 4], 3), START)).stirringPowerW).toBeUndefined()
    expect(fitted(calibrate(trialsOn(SLOW, [2, 5, 8, 12], 3), START)).stirringPowerW).toBeDefined()
  })

  it('shows the trial with a wrong weight, and no other', () => {
    const trials = trialsOn(SLOW, [2, 3, 5, 7, 9], 11)
    const odd = trials.map((t, i) =>
      i === 3 ? { ...t, document: { ...t.document, afterG: t.document.afterG + 25 } } : t,
    )
    expect(fitted(calibrate(trials, START)).residuals.filter((r) => r.isOutlier)).toEqual([])
    expect(
      fitted(calibrate(odd, START))
        .residuals.filter((r) => r.isOutlier)
        .map((r) => r.id),
    ).toEqual([4])
  })

  it('is the same whichever way round the trials lie', () => {
    const trials = trialsOn(SLOW, [2, 4, 6, 9], 5)
    const there = fitted(calibrate(trials, START))
    const back = fitted(calibrate([...trials].reverse(), START))
    expect(back.uaWPerK.value).toBeCloseTo(there.uaWPerK.value, 3)
  })

  it('drifts when newer trials agree with each other and not with it', () => {
    const found = fitted(calibrate(trialsOn(SLOW, [2, 4, 6, 9], 5), START))
    const figures: StationFigures = {
      uaWPerK: found.uaWPerK.value,
      surfaceWaterFraction: found.surfaceWaterFraction.value,
      stirringPowerW: found.stirringPowerW?.value ?? START.stirringPowerW,
    }
    const against = (truth: StationFigures, seconds: number[], seed: number) =>
      driftOf(trialsOn(truth, seconds, seed), figures, found.uncertaintyFraction, {})
    expect(against(SLOW, [3, 5], 21)?.isDrifting).toBe(false)
    const wetter = { ...SLOW, surfaceWaterFraction: 0.24 }
    expect(against(wetter, [3, 5], 21)).toMatchObject({ isDrifting: true, trials: 2 })
    expect(against(wetter, [3, 5], 21)?.byFraction).toBeGreaterThan(0.1)
    // One is no proof.
    expect(against(wetter, [3], 21)?.isDrifting).toBe(false)
    expect(against(SLOW, [], 21)).toBeUndefined()
  })
})

describe('a trial', () => {
  it('whose weights go with each other is believed', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0.5, max: 60, noNaN: true }),
        fc.double({ min: 0.01, max: 0.3, noNaN: true }),
        (s, w) => {
          const document = trialOf(s)
          const p = predictTrial(document, { ...SLOW, surfaceWaterFraction: w })
          if (!p) throw new Error('outside of the model')
          const weighed = { ...document, afterG: p.afterG, afterC: p.afterC, iceLeftG: p.iceLeftG }
          expect(trialProblems(weighed)).toEqual([])
          expect(unaccountedG(weighed)).toBeCloseTo(0, 6)
        },
      ),
    )
  })

  it.each([
    [{ afterG: 330 }, 'afterG', /330 g came out of 132 g and 165 g of ice; at most 297 g/],
    [{ afterG: 40 }, 'afterG', /less than half: was the tin tared/],
    [{ afterG: 200, iceLeftG: 150 }, 'iceLeftG', /are more than the 297 g that went in/],
    [{ afterC: 35 }, 'afterC', /35 °C is warmer than anything that went in/],
    [{ iceC: { value: 3, basis: 'measured' as const } }, 'iceC', /3 °C is no ice/],
    [{ liquid: liquid(1) }, 'liquidBeforeG', /at least 5 g/],
  ])('with %o cannot be', (changes, field, message) => {
    const found = trialProblems(trialOf(4, changes))
    expect(found[0]).toMatchObject({ field, message: expect.stringMatching(message) })
  })
})
