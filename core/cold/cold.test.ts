import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { addLiquids, freezingPointCOf, liquidFromFigures, massGOf, volumeMlOf } from '../liquid/index.ts'
import { METHODS, type MethodPreset, type Mixture, mixIce, pourOut, runStage, type StageParameters } from './index.ts'

function mixture(volumeMl: number, abvPct: number, temperatureC = 20, sugar = 8, acid = 1.2): Mixture {
  const made = liquidFromFigures(volumeMl, { abvPct, sugarGPer100Ml: sugar, acidGPer100Ml: acid })
  if (!made.ok) throw new Error(made.reason)
  return { liquid: made.liquid, temperatureC, iceG: 0, iceTemperatureC: 0 }
}

function parameters(preset: MethodPreset, changes: Partial<StageParameters> = {}): StageParameters {
  const ice = mixIce(preset.usual.ice)
  return {
    iceG: ice?.massG ?? 0,
    iceTemperatureC: ice?.temperatureC ?? 0,
    surfaceWaterFraction: ice?.surfaceWaterFraction ?? 0,
    uaWPerK: preset.uaWPerK,
    stirringPowerW: preset.stirringPowerW,
    vesselJPerK: preset.vesselJPerK,
    vesselTemperatureC: 20,
    durationS: preset.usual.durationS,
    roomTemperatureC: 21,
    leakWPerK: preset.leakWPerK,
    ...changes,
  }
}

const dilutionOf = (before: Mixture, p: StageParameters) => {
  const ran = runStage(before, p)
  return (ran.meltG + ran.surfaceWaterG) / volumeMlOf(before.liquid)
}

describe('the presets against what bars teach', () => {
  it.each([15, 20, 25, 30])('hard shake of %d %% ABV, 12 s from 20 °C: within 15 %% of the regression', (abvPct) => {
    const a = abvPct / 100
    const taught = -1.567 * a * a + 1.742 * a + 0.203
    const dilution = dilutionOf(mixture(110, abvPct), parameters(METHODS.hardShake))
    expect(Math.abs(dilution / taught - 1)).toBeLessThan(0.15)
  })

  it.each([
    [20, 30],
    [20, 45],
    [30, 30],
    [30, 45],
  ])('stir of %d %% ABV for %d s: within 25 %%', (abvPct, durationS) => {
    const a = abvPct / 100
    const taught = -1.21 * a * a + 1.246 * a + 0.145
    const dilution = dilutionOf(mixture(110, abvPct), parameters(METHODS.stir, { durationS }))
    expect(Math.abs(dilution / taught - 1)).toBeLessThan(0.25)
  })

  it('wetter ice dilutes more, colder ice less', () => {
    const before = mixture(110, 22)
    const usual = dilutionOf(before, parameters(METHODS.crushedShake))
    expect(dilutionOf(before, parameters(METHODS.crushedShake, { surfaceWaterFraction: 0.16 }))).toBeGreaterThan(usual)
    expect(dilutionOf(before, parameters(METHODS.crushedShake, { iceTemperatureC: -15 }))).toBeLessThan(usual)
  })
})

describe('limits', () => {
  it('without ice and heat nothing happens', () => {
    const before = mixture(100, 20)
    const quiet = parameters(METHODS.stir, { iceG: 0, stirringPowerW: 0, leakWPerK: 0, vesselJPerK: 0 })
    const ran = runStage(before, quiet)
    expect(ran.after.temperatureC).toBeCloseTo(20, 9)
    expect(ran.meltG).toBe(0)
    expect(ran.after.liquid).toEqual(before.liquid)
  })

  it('a stage of no seconds still takes the surface water and the cold of the vessel', () => {
    const ran = runStage(mixture(100, 20), parameters(METHODS.hardShake, { durationS: 0, vesselTemperatureC: -18 }))
    expect(ran.surfaceWaterG).toBeCloseTo(180 * 0.03, 9)
    expect(ran.meltG).toBe(0)
    expect(ran.after.temperatureC).toBeLessThan(12)
  })

  it('left long enough, it comes to its freezing point', () => {
    const before = mixture(110, 20)
    const ran = runStage(
      before,
      parameters(METHODS.hardShake, { durationS: 120, leakWPerK: 0, stirringPowerW: 0, iceG: 400 }),
    )
    expect(ran.after.temperatureC).toBeCloseTo(freezingPointCOf(ran.after.liquid), 2)
  })

  it('a handful of ice melts away, and then the drink warms', () => {
    const ran = runStage(
      mixture(150, 20),
      parameters(METHODS.whipShake, { iceG: 30, durationS: 60, leakWPerK: 3 }),
      [0, 20, 59],
    )
    expect(ran.iceGoneAtS).toBeGreaterThan(0)
    expect(ran.after.iceG).toBe(0)
    expect(ran.meltG + ran.surfaceWaterG).toBeCloseTo(30, 6)
    expect(ran.samples[2]?.temperatureC).toBeGreaterThan(ran.samples[1]?.temperatureC as number)
  })

  it('a very cold core freezes some of a cold drink, and says so with a negative melt', () => {
    const before = { ...mixture(80, 10, 0) }
    const ran = runStage(
      before,
      parameters(METHODS.stir, {
        iceG: 600,
        iceTemperatureC: -35,
        vesselJPerK: 0,
        surfaceWaterFraction: 0,
        uaWPerK: 5,
      }),
    )
    expect(ran.meltG).toBeLessThan(0)
    expect(ran.after.iceG).toBeGreaterThan(600)
  })
})

describe('any stage', () => {
  const anyStage = fc.record({
    volumeMl: fc.double({ min: 10, max: 900, noNaN: true }),
    abvPct: fc.double({ min: 0, max: 60, noNaN: true }),
    sugar: fc.double({ min: 0, max: 25, noNaN: true }),
    startC: fc.double({ min: -5, max: 35, noNaN: true }),
    iceG: fc.double({ min: 0, max: 800, noNaN: true }),
    iceTemperatureC: fc.double({ min: -30, max: 0, noNaN: true }),
    surfaceWaterFraction: fc.double({ min: 0, max: 0.5, noNaN: true }),
    uaWPerK: fc.double({ min: 0, max: 600, noNaN: true }),
    stirringPowerW: fc.double({ min: 0, max: 300, noNaN: true }),
    vesselJPerK: fc.double({ min: 0, max: 500, noNaN: true }),
    vesselTemperatureC: fc.double({ min: -18, max: 35, noNaN: true }),
    durationS: fc.double({ min: 0, max: 120, noNaN: true }),
    roomTemperatureC: fc.double({ min: 0, max: 40, noNaN: true }),
    leakWPerK: fc.double({ min: 0, max: 5, noNaN: true }),
  })

  it('keeps mass exactly and energy to 0.1 %, stays finite and never negative', () => {
    fc.assert(
      fc.property(anyStage, ({ volumeMl, abvPct, sugar, startC, ...p }) => {
        const before = mixture(volumeMl, abvPct, startC, sugar)
        const ran = runStage(before, p)
        expect(ran.outcome).toBe('done')
        const massBefore = massGOf(before.liquid) + p.iceG
        expect(massGOf(ran.after.liquid) + ran.after.iceG).toBeCloseTo(massBefore, 6)
        const { beforeJ, afterJ, residualJ } = ran.heat
        expect(Math.abs(residualJ)).toBeLessThan(1e-3 * Math.max(1, Math.abs(afterJ - beforeJ), Math.abs(beforeJ)))
        for (const grams of Object.values(ran.after.liquid)) expect(grams).toBeGreaterThanOrEqual(0)
        expect(ran.after.iceG).toBeGreaterThanOrEqual(0)
        expect(Number.isFinite(ran.after.temperatureC)).toBe(true)
      }),
      { numRuns: 300 },
    )
  })
})

describe('ice', () => {
  it('of several kinds is weighted by mass, measured figures first', () => {
    const mixed = mixIce(
      [
        { kind: 'crushed', massG: 120 },
        { kind: 'machineCube', massG: 40 },
      ],
      { crushed: { surfaceWaterFraction: 0.12 } },
    )
    expect(mixed).toMatchObject({
      massG: 160,
      surfaceWaterFraction: expect.closeTo((120 * 0.12 + 40 * 0.03) / 160, 12),
    })
    expect(mixIce([])).toBeUndefined()
  })

  it('comes along as the pour lets it', () => {
    const m = { ...mixture(100, 20), iceG: 50 }
    expect(pourOut(m, 0).iceG).toBe(0)
    expect(pourOut(m, 0.4)).toMatchObject({ iceG: 20, liquid: addLiquids(m.liquid) })
  })
})
