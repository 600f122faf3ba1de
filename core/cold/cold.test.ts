import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { freezingPointCOf, liquidFromFigures, massGOf, volumeMlOf } from '../liquid/index.ts'
import { seededRandom } from '../solve/index.ts'
import { slowStage } from '../testing/slowIce.ts'
import {
  clockSOf,
  ICE_KINDS,
  type IceCharge,
  type IceKind,
  iceGOf,
  METHODS,
  type MethodPreset,
  type Mixture,
  mixIce,
  pourOut,
  type RunOptions,
  runStage,
  type StageParameters,
  type StageResult,
  solveMelting,
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

/** What a stage comes to; it has to be within the model. */
function ranOf(before: Mixture, p: StageParameters, options?: RunOptions): StageResult {
  const ran = runStage(before, p, options)
  if (!ran.ok) throw new Error(JSON.stringify(ran.passed))
  return ran
}

const addedG = (ran: StageResult) => ran.meltG + ran.surfaceWaterG
const dilutionOf = (before: Mixture, p: StageParameters) => addedG(ranOf(before, p)) / volumeMlOf(before.liquid)
const charge = (kind: IceKind, massG: number): IceCharge => ({
  kind,
  massG,
  temperatureC: ICE_KINDS[kind].temperatureC,
  surfaceWaterFraction: ICE_KINDS[kind].surfaceWaterFraction,
})

describe('the surface of melting ice', () => {
  it.each([
    [10, -1, -8, 0.5, 1.488573],
    [-2, -20, -4, 5, -1.339243],
    [-1, -25, -1.5, 30, -2.755327],
  ])(
    'liquid %d, core %d, freezing point %d °C, core ratio %d: u = %d',
    (liquidC, coreC, freezingPointC, coreRatio, u) => {
      expect(solveMelting({ liquidC, coreC, freezingPointC, coreRatio })).toBeCloseTo(u, 6)
    },
  )

  it('has one root wherever it is looked for from, or says so', () => {
    const c = (min: number, max: number) => fc.double({ min, max, noNaN: true })
    fc.assert(
      fc.property(
        c(-40, 95),
        c(-60, 0),
        c(-45, 0),
        c(0, 1e4),
        c(-5, 30),
        (liquidC, coreC, freezingPointC, r, guess) => {
          const at = { liquidC, coreC, freezingPointC, coreRatio: r }
          const u = solveMelting(at)
          const surfaceC = freezingPointC > -1e-9 ? 0 : freezingPointC * Math.exp(-u)
          const left = liquidC - surfaceC + r * (coreC - surfaceC)
          const right = (u / 40) * (333.55 + 4.19 * surfaceC - 2.07 * coreC)
          expect(Math.abs(left - right)).toBeLessThan(1e-6 * (1 + r) * (1 + Math.abs(right)))
          expect(Math.abs(solveMelting(at, guess) - u)).toBeLessThan(1e-7 * (1 + Math.abs(u)))
        },
      ),
      { numRuns: 3000 },
    )
  })
})

describe('the sanity checks of the model', () => {
  it('a big cube at rest: its surface is warmer than its core, and warms it', () => {
    const before = mixture(60, 45, 20, 0, 0)
    const p = parameters(METHODS.build, { charges: [charge('bigCube', 120)], leakWPerK: 0.1, roomTemperatureC: 20 })
    const ran = ranOf(before, { ...p, vesselJPerK: 100, durationS: 5 }, { sampleS: [0] })
    expect(ran.samples[0]?.freezingPointC).toBeCloseTo(-27.13, 2)
    expect(ran.samples[0]?.temperatureC).toBeCloseTo(19.93, 2)
    expect(addedG(ran)).toBeCloseTo(1.523, 3)
    expect(ran.surfaceWaterG).toBeCloseTo(0.6, 9)
    expect(ran.after.temperatureC).toBeCloseTo(18.39, 2)
    expect(ran.after.ice[0]?.temperatureC).toBeCloseTo(-7.34, 2)
  })

  it('a drink at rest in a warm room stays well above its freezing point', () => {
    const p = parameters(METHODS.build, { charges: [charge('crushed', 57)], leakWPerK: 0.4, roomTemperatureC: 22 })
    const ran = ranOf(mixture(150, 18, -2, 7, 0.7), { ...p, vesselTemperatureC: -2, durationS: 600 })
    expect(ran.after.temperatureC).toBeCloseTo(-2.5, 2)
    expect(addedG(ran)).toBeCloseTo(25.7, 1)
  })

  it('a hard shake', () => {
    const p = parameters(METHODS.hardShake, { charges: [charge('machineCube', 180)], roomTemperatureC: 20 })
    const ran = ranOf(mixture(105, 24, 20, 9, 1.3), p)
    expect(addedG(ran)).toBeCloseTo(54.4, 1)
    expect((100 * addedG(ran)) / 105).toBeCloseTo(51.8, 1)
    expect(ran.after.temperatureC).toBeCloseTo(-3.95, 2)
    expect(freezingPointCOf(ran.after.liquid)).toBeCloseTo(-6.84, 2)
  })

  it('without conductance nothing melts but the surface water, however cold the ice or strong the liquid', () => {
    const still = parameters(METHODS.stir, { uaWPerK: 0, charges: [{ ...charge('crushed', 150), temperatureC: -40 }] })
    const ran = ranOf(mixture(60, 96, 20, 0, 0), { ...still, durationS: 120 })
    expect(addedG(ran)).toBeCloseTo(150 * 0.08, 9)
    expect(ran.after.ice).toEqual([
      { kind: 'crushed', massG: expect.closeTo(138, 9), temperatureC: expect.closeTo(-40, 9) },
    ])
  })

  it('without a film the surface is at the freezing point of the liquid', () => {
    const p = parameters(METHODS.hardShake, { charges: [charge('machineCube', 180)] })
    const bare = ranOf(mixture(105, 24), p, { filmJPerGK: 1e-6 })
    const nearly = ranOf(mixture(105, 24), p, { filmJPerGK: 1e-4 })
    expect(addedG(bare)).toBeCloseTo(addedG(nearly), 3)
    expect(addedG(bare)).toBeGreaterThan(addedG(ranOf(mixture(105, 24), p)) + 4)
  })

  it('five minutes of shaking end at the freezing point, core and all, whatever the film', () => {
    const p = parameters(METHODS.hardShake, { charges: [charge('machineCube', 400)], stirringPowerW: 0, leakWPerK: 0 })
    const ends = [20, 40, 60].map((filmJPerGK) => ranOf(mixture(105, 24), { ...p, durationS: 300 }, { filmJPerGK }))
    for (const ran of ends) {
      const freezingC = freezingPointCOf(ran.after.liquid)
      expect(ran.after.temperatureC).toBeCloseTo(freezingC, 2)
      expect(ran.after.ice[0]?.temperatureC).toBeCloseTo(freezingC, 2)
      expect(addedG(ran)).toBeCloseTo(addedG(ends[0] as StageResult), 2)
    }
  })

  it('is what the same equations come to when they are solved slowly and plainly', () => {
    const random = seededRandom(11)
    const between = (low: number, high: number) => low + (high - low) * random.uniform()
    const kinds = Object.keys(ICE_KINDS) as IceKind[]
    for (let i = 0; i < 25; i++) {
      const before = mixture(between(30, 230), between(0, 50), between(0, 25), between(0, 20), between(0, 3))
      const preset = Object.values(METHODS)[Math.floor(between(0, 8))] as MethodPreset
      const piles = new Map<IceKind, IceCharge>()
      for (let k = 0; k < 2; k++) {
        const kind = kinds[Math.floor(between(0, 6))] as IceKind
        piles.set(kind, {
          kind,
          massG: between(20, 220),
          temperatureC: between(-20, 0),
          surfaceWaterFraction: between(0, 0.2),
        })
      }
      const charges = [...piles.values()]
      const p = {
        ...parameters(preset),
        charges,
        durationS: Math.round(between(1, 30)),
        vesselTemperatureC: between(-10, 20),
      }
      const ran = ranOf(before, p)
      const slow = slowStage(before, p, 0.005)
      const what = `${preset.label}, ${charges.map((c) => `${c.massG.toFixed(0)} g ${c.kind}`).join(' and ')}, ${p.durationS} s`
      expect(Math.abs(addedG(ran) - slow.addedG), what).toBeLessThan(0.005)
      expect(Math.abs(ran.after.temperatureC - slow.temperatureC), what).toBeLessThan(0.002)
    }
  })
})

describe('the presets against what bars teach', () => {
  const machineIce = { charges: [charge('machineCube', 180)], vesselTemperatureC: 20, roomTemperatureC: 20 }
  const shaken = (abvPct: number) => {
    const a = abvPct / 100
    return -1.567 * a * a + 1.742 * a + 0.203
  }
  const stirred = (abvPct: number) => {
    const a = abvPct / 100
    return -1.21 * a * a + 1.246 * a + 0.145
  }

  it.each([15, 20, 25, 30])('hard shake of %d %% ABV, 12 s, 90 to 120 ml: within 18 %% of the regression', (abvPct) => {
    for (const volumeMl of [90, 105, 120]) {
      const dilution = dilutionOf(mixture(volumeMl, abvPct, 20, 9, 1.3), parameters(METHODS.hardShake, machineIce))
      expect(Math.abs(dilution / shaken(abvPct) - 1)).toBeLessThan(0.18)
    }
  })

  it.each([15, 20, 25, 30])('stir of %d %% ABV for 30 to 45 s, 90 to 120 ml: within 35 %%', (abvPct) => {
    for (const volumeMl of [90, 105, 120])
      for (const durationS of [30, 37.5, 45]) {
        const p = parameters(METHODS.stir, { ...machineIce, durationS })
        const dilution = dilutionOf(mixture(volumeMl, abvPct, 20, 5, 0), p)
        expect(Math.abs(dilution / stirred(abvPct) - 1)).toBeLessThan(0.35)
      }
  })

  it('the regressions know no volume; a tin does', () => {
    const off = (volumeMl: number) => {
      const each = Array.from({ length: 16 }, (_, i) => 15 + i).map(
        (abvPct) =>
          dilutionOf(mixture(volumeMl, abvPct, 20, 9, 1.3), parameters(METHODS.hardShake, machineIce)) /
            shaken(abvPct) -
          1,
      )
      return (100 * each.reduce((sum, e) => sum + e, 0)) / each.length
    }
    const published = { 75: 19, 90: 8, 105: 0, 120: -6, 150: -17 }
    for (const [volumeMl, pct] of Object.entries(published))
      expect(Math.abs(off(Number(volumeMl)) - pct)).toBeLessThan(1)
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
    const ran = ranOf(before, quiet)
    expect(ran.after.temperatureC).toBeCloseTo(20, 9)
    expect(ran.meltG).toBe(0)
    expect(ran.after.liquid).toEqual(before.liquid)
  })

  it('a stage of no seconds still takes the surface water and the cold of the vessel', () => {
    const ran = ranOf(mixture(100, 20), parameters(METHODS.hardShake, { durationS: 0, vesselTemperatureC: -18 }))
    expect(ran.surfaceWaterG).toBeCloseTo(180 * 0.03, 9)
    expect(ran.meltG).toBe(0)
    expect(ran.after.temperatureC).toBeLessThan(12)
  })

  it('a handful of ice melts away, and then the drink warms', () => {
    const p = parameters(METHODS.whipShake, { iceG: 30, durationS: 60, leakWPerK: 3 })
    const ran = ranOf(mixture(150, 20), p, { sampleS: [0, 20, 59] })
    expect(ran.iceGoneAtS).toBeGreaterThan(0)
    expect(iceGOf(ran.after)).toBe(0)
    expect(addedG(ran)).toBeCloseTo(30, 6)
    expect(ran.samples[2]?.temperatureC).toBeGreaterThan(ran.samples[1]?.temperatureC as number)
  })

  it('a very cold core freezes some of a cold drink, and says so with a negative melt', () => {
    const cold = { iceG: 600, iceTemperatureC: -35, vesselJPerK: 0, surfaceWaterFraction: 0, uaWPerK: 5 }
    const ran = ranOf(mixture(80, 10, 0), parameters(METHODS.stir, cold))
    expect(ran.meltG).toBeLessThan(0)
    expect(iceGOf(ran.after)).toBeGreaterThan(600)
  })
})

describe('outside of what the model knows', () => {
  const passedBy = (before: Mixture, changes: Partial<StageParameters>) => {
    const ran = runStage(before, parameters(METHODS.stir, changes))
    return ran.ok ? 'computed' : ran.passed.limit
  }
  it('overproof that touches ice is refused; where its surface water lifts it, or nothing touches, it is computed', () => {
    const overproof = mixture(50, 75, 20, 0, 0)
    expect(passedBy(overproof, {})).toBe('freezingPoint')
    expect(passedBy(overproof, { iceG: 0 })).toBe('computed')
    expect(passedBy(overproof, { uaWPerK: 0 })).toBe('computed')
    expect(passedBy(overproof, { surfaceWaterFraction: 0.2 })).toBe('computed')
    expect(passedBy(mixture(50, 55, 20, 60, 0), { iceG: 1 })).toBe('freezingPoint')
  })
  it('what is stirred hotter than 95 °C, and what is that hot already', () => {
    const ran = runStage(
      mixture(20, 10),
      parameters(METHODS.fullBlend, { iceG: 0, stirringPowerW: 2000, durationS: 60 }),
    )
    expect(ran).toMatchObject({ ok: false, passed: { limit: 'hot' } })
    expect(ran.ok ? 0 : ran.atS).toBeGreaterThan(1)
    expect(passedBy({ ...mixture(20, 10), temperatureC: 96 }, {})).toBe('hot')
  })
  it('what freezes solid', () => {
    const small = mixture(2, 0, 1, 0, 0)
    expect(
      passedBy(small, { iceG: 500, iceTemperatureC: -40, surfaceWaterFraction: 0, uaWPerK: 50, vesselJPerK: 0 }),
    ).toBe('solid')
  })
  it('is answered up to there', () => {
    const p = parameters(METHODS.fullBlend, { iceG: 0, stirringPowerW: 2000, durationS: 60 })
    const ran = runStage(mixture(20, 10), p, { sampleS: [0, 1, 50] })
    expect(ran.samples.map((s) => s.timeS)).toEqual([0, 1])
  })
})

describe('any stage that can be written down', () => {
  const number = (min: number, max: number) => fc.double({ min, max, noNaN: true })
  const anyKind = fc.constantFrom(...(Object.keys(ICE_KINDS) as IceKind[]), undefined)
  const anyCharge = fc.record({
    kind: anyKind,
    massG: number(0, 2000),
    temperatureC: number(-40, 0),
    surfaceWaterFraction: number(0, 0.6),
  })
  // The whole range of what a spec and a station may say.
  const anyStage = fc.record({
    uaWPerK: number(0, 2000),
    stirringPowerW: number(0, 2000),
    vesselJPerK: number(0, 5000),
    vesselTemperatureC: number(-40, 60),
    durationS: number(0, 120),
    roomTemperatureC: number(-20, 50),
    leakWPerK: number(0, 50),
    bursts: fc.integer({ min: 1, max: 10 }),
    restS: number(0, 60),
    waitS: number(0, 300),
  })
  const anyLiquid = fc.record({
    volumeMl: fc.oneof(number(0.05, 5), number(5, 1000)),
    abvPct: number(0, 100),
    sugar: fc.oneof(fc.constant(0), number(0, 130)),
    acid: fc.oneof(fc.constant(0), number(0, 100)),
    startC: number(-30, 60),
  })

  it('comes to numbers within what is possible, mass and energy exact; or is refused', () => {
    let computed = 0
    fc.assert(
      fc.property(anyLiquid, fc.array(anyCharge, { maxLength: 3 }), anyStage, (l, all, stage) => {
        const made = liquidFromFigures(l.volumeMl, { abvPct: l.abvPct, sugarGPer100Ml: l.sugar, acidGPer100Ml: l.acid })
        fc.pre(made.ok)
        if (!made.ok) return
        const charges = all.map(({ kind, ...c }): IceCharge => (kind ? { kind, ...c } : c))
        const p = { ...stage, charges, iceG: 0, iceTemperatureC: 0, surfaceWaterFraction: 0 }
        const before = { liquid: made.liquid, temperatureC: l.startC, ice: [] }
        const ran = runStage(before, p, { sampleS: [0, clockSOf(p)] })
        if (!ran.ok) {
          expect(ran.atS).toBeGreaterThanOrEqual(0)
          return
        }
        computed++
        const iceG = charges.reduce((sum, c) => sum + c.massG, 0)
        const massG = massGOf(made.liquid) + iceG
        expect(Math.abs(massGOf(ran.after.liquid) + iceGOf(ran.after) - massG)).toBeLessThan(1e-9 * massG + 1e-9)
        const { beforeJ, afterJ, residualJ } = ran.heat
        expect(Math.abs(residualJ)).toBeLessThan(1e-7 * (Math.abs(beforeJ) + Math.abs(afterJ) + 1))
        for (const grams of Object.values(ran.after.liquid)) expect(grams).toBeGreaterThanOrEqual(0)
        const { temperatureC } = ran.after
        const coldest = Math.min(
          -45,
          l.startC,
          p.vesselTemperatureC,
          p.roomTemperatureC,
          ...charges.map((c) => c.temperatureC),
        )
        expect(temperatureC).toBeGreaterThanOrEqual(coldest - 1)
        expect(temperatureC).toBeLessThanOrEqual(95)
        for (const pile of ran.after.ice) {
          expect(pile.temperatureC).toBeGreaterThanOrEqual(-80)
          expect(pile.temperatureC).toBeLessThanOrEqual(0.5)
        }
        expect(ran.samples).toHaveLength(2)
      }),
      { numRuns: 1500 },
    )
    // The refusals are the edge, not the rule.
    expect(computed).toBeGreaterThan(500)
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
    const whole = ranOf(drink, ofKind).meltG
    expect(ranOf(drink, halves).meltG).toBeCloseTo(whole, 9)
    // Of no named kind it is the same ice with another core: tenths of a gram.
    expect(Math.abs(ranOf(drink, flat).meltG - whole)).toBeLessThan(0.1)
  })

  it('the small ice melts away completely; the agitator cubes go on, slowly', () => {
    const ran = ranOf(drink, mixer({ charges: [small, cubes], durationS: 20 }), { sampleS: [8, 20], keepsStates: true })
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
        const ran = ranOf(drink, p, { sampleS: [clockSOf(p)] })
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
    const once = ranOf(drink, mixer({ durationS: 4 }))
    const bursts = ranOf(drink, mixer({ durationS: 4, bursts: 4 }))
    expect(bursts.meltG).toBeCloseTo(once.meltG, 3)
  })

  it('a rest between bursts melts a little, and stirs nothing', () => {
    const p = mixer({ durationS: 4, bursts: 4, restS: 2 })
    expect(clockSOf(p)).toBe(10)
    const once = ranOf(drink, mixer({ durationS: 4 }))
    const rested = ranOf(drink, p)
    expect(rested.meltG).toBeGreaterThan(once.meltG)
    expect(rested.meltG).toBeLessThan(ranOf(drink, mixer({ durationS: 10 })).meltG)
    expect(rested.heat.stirringJ).toBeCloseTo(once.heat.stirringJ, 9)
  })

  it('ice first and waiting waters the drink before the work begins', () => {
    const last = ranOf(drink, mixer({ durationS: 1 }))
    const first = ranOf(drink, mixer({ durationS: 1, waitS: 60 }))
    expect(first.meltG).toBeGreaterThan(last.meltG + 5)
  })

  it('a tin from the freezer melts less', () => {
    const melt = (vesselTemperatureC: number) => ranOf(drink, mixer({ vesselTemperatureC })).meltG
    expect(melt(-18)).toBeLessThan(melt(20) - 10)
  })
})
