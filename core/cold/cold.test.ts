import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { freezingPointCOf, liquidFromFigures, massGOf, volumeMlOf } from '../liquid/index.ts'
import {
  clockSOf,
  type IceCharge,
  iceGOf,
  METHODS,
  type MethodPreset,
  type Mixture,
  mixIce,
  pourOut,
  runStage,
  type StageParameters,
} from './index.ts'

function mixture(volumeMl: number, abvPct: number, temperatureC = 20, sugar = 8, acid = 1.2): Mixture {
  const made = liquidFromFigures(volumeMl, { abvPct, sugarGPer100Ml: sugar, acidGPer100Ml: acid })
  if (!made.ok) throw new Error(made.reason)
  return { liquid: made.liquid, temperatureC, ice: [] }
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
    expect(iceGOf(ran.after)).toBe(0)
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
    expect(iceGOf(ran.after)).toBeGreaterThan(600)
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
        expect(massGOf(ran.after.liquid) + iceGOf(ran.after)).toBeCloseTo(massBefore, 6)
        const { beforeJ, afterJ, residualJ } = ran.heat
        expect(Math.abs(residualJ)).toBeLessThan(1e-3 * Math.max(1, Math.abs(afterJ - beforeJ), Math.abs(beforeJ)))
        for (const grams of Object.values(ran.after.liquid)) expect(grams).toBeGreaterThanOrEqual(0)
        expect(iceGOf(ran.after)).toBeGreaterThanOrEqual(0)
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

  it('comes along as the pour lets it: all, the small pieces, none', () => {
    const m: Mixture = {
      ...mixture(100, 20),
      ice: [
        { kind: 'crushed', massG: 50, temperatureC: -1 },
        { kind: 'machineCube', massG: 40, temperatureC: -2 },
      ],
    }
    expect(iceGOf(pourOut(m, 'open').mixture)).toBe(90)
    expect(pourOut(m, 'strained')).toMatchObject({ iceLeftBehindG: 90, mixture: { ice: [] } })
    const gated = Object.fromEntries(pourOut(m, 'gated').mixture.ice.map((p) => [p.kind, p.massG]))
    expect(gated.crushed).toBeGreaterThan(40)
    expect(gated.machineCube).toBeLessThan(4)
  })

  it('keeps liquid back where it is strained off, the finer the more; nothing is lost', () => {
    const on = (kind: 'crushed' | 'machineCube'): Mixture => ({
      ...mixture(100, 20),
      ice: [{ kind, massG: 120, temperatureC: -1 }],
    })
    const fine = pourOut(on('crushed'), 'strained')
    const coarse = pourOut(on('machineCube'), 'strained')
    expect(fine.heldBackG).toBeGreaterThan(3 * coarse.heldBackG - 6)
    expect(massGOf(fine.mixture.liquid) + fine.heldBackG).toBeCloseTo(massGOf(on('crushed').liquid), 9)
    expect(pourOut(on('crushed'), 'doubleStrained').heldBackG).toBeGreaterThan(fine.heldBackG)
    // In the serving glass nothing is poured; a stage that says everything itself keeps nothing back.
    expect(pourOut(on('crushed'), 'strained', 'glass')).toMatchObject({ heldBackG: 0, iceLeftBehindG: 0 })
    const bare = { ...mixture(100, 20), ice: [{ massG: 50, temperatureC: 0 }] }
    expect(pourOut(bare, 'gated', 'nothing')).toMatchObject({ heldBackG: 0, iceLeftBehindG: 30 })
  })
})

describe('several kinds of ice in one tin', () => {
  const small: IceCharge = { kind: 'pebble', massG: 35, temperatureC: -0.2, surfaceWaterFraction: 0.14 }
  const cubes: IceCharge = { kind: 'machineCube', massG: 60, temperatureC: -1, surfaceWaterFraction: 0.03 }
  const drink = mixture(130, 20)
  const mixer = (changes: Partial<StageParameters>) => parameters(METHODS.flashBlend, { iceG: 0, ...changes })

  it('of one kind, however it is said, is one and the same', () => {
    const flat = mixer({ iceG: 35, iceTemperatureC: -0.2, surfaceWaterFraction: 0.14, durationS: 3 })
    const ofKind = mixer({ charges: [small], durationS: 3 })
    const halves = mixer({ charges: [small, small].map((c) => ({ ...c, massG: 17.5 })), durationS: 3 })
    const meltG = runStage(drink, flat).meltG
    expect(runStage(drink, ofKind).meltG).toBeCloseTo(meltG, 9)
    expect(runStage(drink, halves).meltG).toBeCloseTo(meltG, 9)
  })

  it('the small ice melts away completely; the agitator cubes go on, slowly', () => {
    const ran = runStage(drink, mixer({ charges: [small, cubes], durationS: 20 }), [8, 20])
    expect(ran.after.ice.map((p) => p.kind)).toEqual(['machineCube'])
    expect(iceGOf(ran.after)).toBeGreaterThan(15)
    expect(ran.iceGoneAtS).toBeUndefined()
    const [early, late] = ran.states as [Mixture, Mixture]
    expect(massGOf(late.liquid) + iceGOf(late)).toBeCloseTo(massGOf(early.liquid) + iceGOf(early), 6)
    // While the small ice lasts, it does most of the work.
    const [a, b] = ran.samples.map((s) => s.addedWaterG) as [number, number]
    expect((b - a) / (20 - 8)).toBeLessThan(a / 8 / 3)
  })

  it('keeps mass and energy with any piles, bursts and waiting', () => {
    const charge = fc.record({
      kind: fc.constantFrom('crushed' as const, 'pebble' as const, 'machineCube' as const, 'bigCube' as const),
      massG: fc.double({ min: 0, max: 300, noNaN: true }),
      temperatureC: fc.double({ min: -20, max: 0, noNaN: true }),
      surfaceWaterFraction: fc.double({ min: 0, max: 0.4, noNaN: true }),
    })
    const pace = fc.record({
      durationS: fc.double({ min: 0, max: 60, noNaN: true }),
      bursts: fc.integer({ min: 1, max: 6 }),
      restS: fc.double({ min: 0, max: 10, noNaN: true }),
      waitS: fc.double({ min: 0, max: 120, noNaN: true }),
    })
    fc.assert(
      fc.property(fc.array(charge, { maxLength: 4 }), pace, (charges, paced) => {
        const p = mixer({ charges, ...paced })
        const ran = runStage(drink, p, [clockSOf(p)])
        expect(ran.outcome).toBe('done')
        const iceG = charges.reduce((sum, c) => sum + c.massG, 0)
        expect(massGOf(ran.after.liquid) + iceGOf(ran.after)).toBeCloseTo(massGOf(drink.liquid) + iceG, 6)
        expect(Math.abs(ran.heat.residualJ)).toBeLessThan(1e-3 * Math.abs(ran.heat.beforeJ) + 1)
        expect(ran.samples).toHaveLength(1)
        for (const pile of ran.after.ice) expect(pile.massG).toBeGreaterThan(0)
      }),
      { numRuns: 200 },
    )
  })
})

describe('how the seconds are spent', () => {
  const drink = mixture(110, 22)
  const mixer = (changes: Partial<StageParameters>) => parameters(METHODS.flashBlend, changes)

  it('bursts without a rest between are one go', () => {
    const once = runStage(drink, mixer({ durationS: 4 }))
    const bursts = runStage(drink, mixer({ durationS: 4, bursts: 4 }))
    expect(bursts.meltG).toBeCloseTo(once.meltG, 3)
  })

  it('a rest between bursts melts a little, and stirs nothing', () => {
    const p = mixer({ durationS: 4, bursts: 4, restS: 2 })
    expect(clockSOf(p)).toBe(10)
    const once = runStage(drink, mixer({ durationS: 4 }))
    const rested = runStage(drink, p)
    expect(rested.meltG).toBeGreaterThan(once.meltG)
    expect(rested.meltG).toBeLessThan(runStage(drink, mixer({ durationS: 10 })).meltG)
    expect(rested.heat.stirringJ).toBeCloseTo(once.heat.stirringJ, 9)
  })

  it('ice first and waiting waters the drink before the work begins', () => {
    const last = runStage(drink, mixer({ durationS: 1 }))
    const first = runStage(drink, mixer({ durationS: 1, waitS: 60 }))
    expect(first.meltG).toBeGreaterThan(last.meltG + 5)
  })

  it('a tin from the freezer melts less', () => {
    const melt = (vesselTemperatureC: number) => runStage(drink, mixer({ vesselTemperatureC })).meltG
    expect(melt(-18)).toBeLessThan(melt(20) - 10)
  })
})
