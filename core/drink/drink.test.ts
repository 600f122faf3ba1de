import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { METHODS } from '../cold/index.ts'
import type { DrinkDocumentInput } from '../drink/schema.ts'
import type { HouseBook, Well } from '../house/index.ts'
import { bottle, testDrink, testHouse } from '../testing/house.ts'
import { type DrinkResult, type GlassFor, glassFor, standardFrom, standingOf } from './index.ts'
import { drinkResultSchema } from './resultSchema.ts'
import { drinkDocumentSchema } from './schema.ts'

function made(changes: Partial<DrinkDocumentInput> = {}, well?: string, book = testHouse()): GlassFor & { ok: true } {
  const glass = glassFor(testDrink(changes), book, well)
  if (!glass.ok) throw new Error(JSON.stringify(glass.problems))
  return glass
}
const problemsOf = (changes: Partial<DrinkDocumentInput>, well?: string) => {
  const glass = glassFor(testDrink(changes), testHouse(), well)
  return glass.ok ? [] : glass.problems.map((p) => `${p.path.join('.')}: ${p.message}`)
}
const texts = (glass: GlassFor & { ok: true }) => glass.consequences.map((c) => c.text)

describe('a drink in the glass', () => {
  it('holds the alcohol, sugar and acid that were poured, whatever the ice did', () => {
    const { result } = made()
    const whole = result.glass?.whole
    expect(whole?.alcoholG).toBeCloseTo(60 * 0.4 * 0.789239, 6)
    expect(whole?.sugarG).toBeCloseTo(15 * 0.615 + 22.5 * 0.015, 6)
    expect(whole?.acidG).toBeCloseTo(22.5 * 0.06, 6)
    expect(whole?.massG).toBeCloseTo(
      result.beforeIce.massG + (whole?.meltTotalG ?? 0) + (whole?.surfaceWaterTotalG ?? 0),
      6,
    )
  })

  it('is the same every time, and passes its own schema unchanged', () => {
    const { result } = made()
    expect(made().result).toEqual(result)
    expect(drinkResultSchema.parse(JSON.parse(JSON.stringify(result)))).toEqual(JSON.parse(JSON.stringify(result)))
  })

  it('goes on melting in the guest’s hand', () => {
    const { atHandOver, after5Min, after15Min } = made().result.glass as NonNullable<DrinkResult['glass']>
    expect(atHandOver.meltTotalG).toBeLessThan(after5Min.meltTotalG)
    expect(after5Min.meltTotalG).toBeLessThan(after15Min.meltTotalG)
    expect(after15Min.abvPct).toBeLessThan(atHandOver.abvPct)
  })

  it('is wetter on a warm well with wet ice, in the same seconds', () => {
    expect(made({}, 'yard').result.predictions.dilutionPct?.value).toBeGreaterThan(
      made({}, 'front').result.predictions.dilutionPct?.value as number,
    )
  })

  it('takes seconds and ice of its own at a well', () => {
    const byWell = { yard: { durationS: 1, ice: [{ kind: 'pebble' as const, massG: 80 }] } }
    const { parameters } = made({ stages: [{ method: 'flashBlend', durationS: 4, byWell }] }, 'yard').result
      .stages[0] as DrinkResult['stages'][0]
    expect(parameters).toMatchObject({ durationS: 1, iceG: 80, surfaceWaterFraction: 0.14 })
  })

  it('says where every stage parameter came from', () => {
    const stage = made({ stages: [{ station: 'front/mixer', durationS: 4, parameters: { leakWPerK: 1.5 } }] }).result
      .stages[0]
    expect(stage?.parameters).toMatchObject({ uaWPerK: 300, stirringPowerW: 120, leakWPerK: 1.5, durationS: 4 })
    expect(stage?.sources).toMatchObject({
      uaWPerK: 'station',
      stirringPowerW: 'preset',
      leakWPerK: 'spec',
      iceTemperatureC: 'well',
    })
  })

  it('overrides each parameter alone', () => {
    const plain = made({ startTemperatureC: 20 }).result.stages[0] as DrinkResult['stages'][0]
    const warmer = made({
      startTemperatureC: 20,
      stages: [{ method: 'flashBlend', durationS: 4, parameters: { iceTemperatureC: -20 } }],
    })
    expect(warmer.result.stages[0]?.parameters).toEqual({ ...plain.parameters, iceTemperatureC: -20 })
  })

  it('keeps a float on top and out of the chilling', () => {
    const float = { ingredient: 'strong-rum', amount: { value: 15, unit: 'ml' as const }, into: 'float' as const }
    const plain = made()
    const floated = made({ pours: [...testDrink().pours, float] })
    expect(floated.result.beforeIce).toEqual(plain.result.beforeIce)
    expect(floated.result.glass?.strata.floatMl).toBeCloseTo(15, 6)
    expect(floated.result.glass?.whole.abvPct).toBeGreaterThan(plain.result.glass?.whole.abvPct as number)
  })

  it('adds soda in the glass after shaking, and from the start in a build', () => {
    const soda = { ingredient: 'soda', volumeMl: 60, into: 'glass' as const }
    const shaken = made({ pours: [soda, ...testDrink().pours] }).result
    expect(shaken.beforeIce.volumeMl).toBeLessThan(100)
    expect(shaken.glass?.strata.addedInGlassMl).toBeCloseTo(60, 3)
    const built = made({ pours: [soda, ...testDrink().pours], stages: [{ method: 'build' }] }).result
    expect(built.beforeIce.volumeMl).toBeGreaterThan(150)
  })

  it('divides by the number it serves', () => {
    expect(made({ serves: 4 }).result.serve.alcoholG).toBeCloseTo(made().result.serve.alcoholG / 4, 9)
  })

  it('gives each pour its share, together the whole', () => {
    const { pours } = made().result
    for (const key of ['alcoholFraction', 'sugarFraction', 'acidFraction'] as const) {
      expect(pours.reduce((sum, p) => sum + p[key], 0)).toBeCloseTo(1, 9)
    }
  })

  it('is finite and not negative for any valid spec', () => {
    const anyPour = fc.record({
      figures: fc.record({
        abvPct: fc.double({ min: 0, max: 70, noNaN: true }),
        sugarGPer100Ml: fc.double({ min: 0, max: 40, noNaN: true }),
        acidGPer100Ml: fc.double({ min: 0, max: 8, noNaN: true }),
      }),
      volumeMl: fc.double({ min: 0.1, max: 300, noNaN: true }),
      into: fc.constantFrom('tin' as const, 'glass' as const, 'float' as const),
      temperatureC: fc.double({ min: -15, max: 35, noNaN: true }),
    })
    const anyStage = fc.record({
      method: fc.constantFrom(
        'hardShake',
        'flashBlend',
        'fullBlend',
        'swizzle',
        'stir',
        'build',
        'whipShake',
      ) as fc.Arbitrary<'stir'>,
      durationS: fc.double({ min: 0, max: 120, noNaN: true }),
      pour: fc.constantFrom('open' as const, 'gated' as const, 'strained' as const),
    })
    const anyDrink = fc.record({
      name: fc.constant('Any'),
      pours: fc.array(anyPour, { minLength: 1, maxLength: 6 }),
      stages: fc.array(anyStage, { maxLength: 2 }),
      glass: fc.constantFrom('tall', 'thimble'),
      serveIce: fc.array(
        fc.record({
          kind: fc.constantFrom('crushed', 'bigCube') as fc.Arbitrary<'crushed'>,
          massG: fc.double({ min: 0, max: 300, noNaN: true }),
        }),
        { maxLength: 2 },
      ),
    })
    let computed = 0
    fc.assert(
      fc.property(anyDrink, fc.constantFrom('front', 'yard'), (input, well) => {
        const glass = glassFor(drinkDocumentSchema.parse(input), testHouse(), well)
        // Too strong to lie on ice, or too little to stay liquid on it: said, and where.
        if (!glass.ok) {
          for (const { path, message } of glass.problems) {
            expect(['stages', 'glass']).toContain(path[0])
            expect(message).toMatch(/below −45 °C nobody knows|it freezes solid after/)
          }
          return
        }
        computed++
        // The schema refuses NaN and infinity anywhere in the result.
        drinkResultSchema.parse(glass.result)
        const { whole, strata, fill } = glass.result.glass as NonNullable<DrinkResult['glass']>
        for (const value of [whole.massG, whole.abvPct, whole.iceLeftG, fill.overflowMl, ...Object.values(strata)]) {
          expect(value).toBeGreaterThanOrEqual(0)
        }
        expect(fill.washLineMm).toBeLessThanOrEqual(fill.heightMm)
      }),
      { numRuns: 150 },
    )
    expect(computed).toBeGreaterThan(100)
  })
})

describe('what cannot be computed is refused by place', () => {
  it('a missing ingredient, glass, well or station', () => {
    expect(problemsOf({ pours: [{ ingredient: 'ghost-rum', volumeMl: 30 }], glass: 'bucket' })).toEqual([
      'pours.0.ingredient: there is no ingredient “ghost-rum”; the house has plain-rum, strong-rum, lime-juice, sugar-syrup, nut-syrup, soda',
      'glass: there is no glass “bucket”; the house has tall, thimble',
    ])
    expect(problemsOf({}, 'cellar')).toEqual(['well: there is no well “cellar”; the house has front, yard'])
    expect(problemsOf({ stages: [{ station: 'front/anvil' }] })).toEqual([
      'stages.0.station: there is no station at the Front “anvil”; the house has mixer, tin',
    ])
  })

  it('a pour over a litre once its unit is known, and parts of no size', () => {
    expect(problemsOf({ pours: [{ ingredient: 'plain-rum', amount: { value: 40, unit: 'oz' } }] })).toEqual([
      'pours.0.amount.value: 40 oz is 1200 ml; a pour is more than 0 and at most 1000 ml',
    ])
    expect(problemsOf({ pours: [{ ingredient: 'plain-rum', amount: { value: 2, unit: 'part' } }] })).toEqual([
      'pours.0.amount: is in parts; say how large a part is (partMl)',
    ])
  })

  it('a bare stage that does not say what it must', () => {
    expect(problemsOf({ stages: [{ parameters: { uaWPerK: 100 } }] })).toEqual([
      'stages.0.parameters.iceG: is missing; a stage without a method or a station says it itself',
      'stages.0.parameters.durationS: is missing; a stage without a method or a station says it itself',
    ])
  })
})

describe('consequences', () => {
  it('come worst first, and name the amount', () => {
    const glass = made({ glass: 'thimble', garnish: [{ text: 'paper lantern', isFood: false }] })
    expect(glass.consequences[0]).toMatchObject({ weight: 'stop', code: 'overflow' })
    expect(texts(glass)).toContain('paper lantern: not food, keep it out of the glass')
    const weights = glass.consequences.map((c) => ['stop', 'mind', 'note'].indexOf(c.weight))
    expect(weights).toEqual([...weights].sort())
  })

  it('name allergens, assumed figures, a strong serve and fire near overproof', () => {
    const glass = made({
      pours: [
        { ingredient: 'strong-rum', volumeMl: 90 },
        { ingredient: 'nut-syrup', volumeMl: 15 },
        { ingredient: 'lime-juice', volumeMl: 20 },
      ],
      hasFlame: true,
    })
    expect(texts(glass)).toContain('contains tree nuts')
    expect(texts(glass)).toContain('4.9 standard drinks in one serve; the house says a word above 3')
    expect(texts(glass)).toContain(
      'strong rum is overproof and there is flame: bottle away first, nothing poured near a flame',
    )
    expect(texts(glass)).toContain('assumed, not measured: lime juice (sugar, acid)')
    expect(glass.consequences.filter((c) => c.isSafety).map((c) => c.code)).toEqual([
      'overproofFlame',
      'strong',
      'allergens',
    ])
  })

  it('say which measure left its standard', () => {
    const standard = { strengthPct: { low: 20, high: 24 } }
    expect(
      texts(made({ standard })).some((t) => /^strength 1\d\.\d %: below the standard, 20\.0 to 24\.0$/.test(t)),
    ).toBe(true)
  })

  it('do not call a calibrated station uncalibrated', () => {
    expect(texts(made({ stages: [{ method: 'hardShake' }] })).join()).not.toContain('uncalibrated')
    expect(texts(made()).join()).toContain('uncalibrated: dilution ±15 %')
  })
})

describe('what trials, speeds and gear do to a drink', () => {
  const calibrated = (drift?: { trials: number; byFraction: number }): HouseBook => ({
    ...testHouse(),
    calibrations: [
      {
        well: 'front',
        station: 'mixer',
        ice: 'crushed',
        uaWPerK: { value: 180, low: 160, high: 200 },
        surfaceWaterFraction: { value: 0.2, low: 0.15, high: 0.25 },
        uncertaintyFraction: 0.05,
        volumesMl: { lowMl: 60, highMl: 200 },
        trials: 5,
        on: '2026-03-01',
        ...(drift ? { drift } : {}),
      },
    ],
  })
  const on = (house: HouseBook, changes: Partial<DrinkDocumentInput> = {}, well = 'front') => made(changes, well, house)

  it('the trials of a station with that ice come before what is typed, and say so', () => {
    const { result } = on(calibrated())
    expect(result.stages[0]?.parameters.uaWPerK).toBe(180)
    expect(result.stages[0]?.sources).toMatchObject({ uaWPerK: 'trials', stirringPowerW: 'preset' })
    expect(result.dilutionUncertaintyFraction).toBe(0.05)
    // Of other ice they say nothing, nor of another well.
    const cubes = on(calibrated(), { stages: [{ method: 'flashBlend', ice: [{ kind: 'machineCube', massG: 150 }] }] })
    expect(cubes.result.stages[0]?.sources.uaWPerK).toBe('station')
    expect(on(calibrated(), {}, 'yard').result.stages[0]?.sources.uaWPerK).toBe('preset')
  })

  it('a drifting station is told of, with how much', () => {
    expect(texts(on(calibrated({ trials: 2, byFraction: 0.23 })))).toContain(
      'Fast mixer is drifting: 2 newer trials say 23 % more water than this counts on',
    )
    expect(texts(on(calibrated())).join()).not.toContain('drifting')
  })

  it('a slower speed chills less; one that is not there is refused by name', () => {
    const house = testHouse()
    const [front, yard] = house.wells as [Well, Well]
    const speeds = [{ slug: 'low', name: 'low', uaTimes: 0.5, powerTimes: 0.5 }]
    const stations = front.stations.map((s) => (s.slug === 'mixer' ? { ...s, speeds } : s))
    const withSpeed: HouseBook = { ...house, wells: [{ ...front, stations }, yard] }
    const at = (speed?: string) => on(withSpeed, { stages: [{ method: 'flashBlend', durationS: 3, speed }] }).result
    expect(at('low').stages[0]?.parameters.uaWPerK).toBe(150)
    expect(at('low').stages[0]?.atEnd.meltG).toBeLessThan((at().stages[0]?.atEnd.meltG ?? 0) - 5)
    expect(
      glassFor(testDrink({ stages: [{ method: 'flashBlend', speed: 'eleven' }] }), withSpeed, 'front'),
    ).toMatchObject({
      ok: false,
      problems: [{ path: ['stages', 0, 'speed'], message: expect.stringContaining('“eleven”') }],
    })
  })

  it('a speed said for one well is not asked of another', () => {
    const house = testHouse()
    const [front, yard] = house.wells as [Well, Well]
    const speeds = [{ slug: 'low', name: 'low', uaTimes: 0.5, powerTimes: 0.5 }]
    const stations = front.stations.map((s) => (s.slug === 'mixer' ? { ...s, speeds } : s))
    const withSpeed: HouseBook = { ...house, wells: [{ ...front, stations }, yard] }
    const stages: DrinkDocumentInput['stages'] = [{ method: 'flashBlend', byWell: { front: { speed: 'low' } } }]
    expect(on(withSpeed, { stages }).result.stages[0]?.parameters.uaWPerK).toBe(150)
    expect(on(withSpeed, { stages }, 'yard').result.stages[0]?.parameters.uaWPerK).toBe(METHODS.flashBlend.uaWPerK)
    const unknown = { stages: [{ method: 'flashBlend' as const, byWell: { front: { speed: 'eleven' } } }] }
    expect(glassFor(testDrink(unknown), withSpeed, 'front')).toMatchObject({
      ok: false,
      problems: [{ path: ['stages', 0, 'byWell', 'front', 'speed'] }],
    })
  })

  it('strained off crushed ice less comes into the glass than strained off cubes, and what stays is told', () => {
    const strained = (kind: 'crushed' | 'machineCube') =>
      on(testHouse(), {
        stages: [{ method: 'hardShake', ice: [{ kind, massG: 180 }], durationS: 8, pour: 'strained' }],
      }).result.stages[0]
    expect(strained('crushed')?.heldBackG).toBeGreaterThan(10)
    expect(strained('machineCube')?.heldBackG).toBeLessThan(8)
    const stage = strained('crushed')
    expect((stage?.afterPour.massG ?? 0) + (stage?.heldBackG ?? 0)).toBeCloseTo(stage?.atEnd.massG ?? 0, 9)
  })
})

describe('a standard', () => {
  it('taken from a glass holds that glass', () => {
    const { predictions } = made().result
    const standard = standardFrom(predictions)
    for (const [name, band] of Object.entries(standard)) {
      expect(['inside', 'edge']).toContain(standingOf(predictions[name as 'strengthPct'], band))
    }
  })

  it('knows inside, edge and both sides', () => {
    const band = { low: 10, high: 12 }
    expect(standingOf({ value: 11, low: 10.5, high: 11.5 }, band)).toBe('inside')
    expect(standingOf({ value: 11, low: 9.5, high: 12.5 }, band)).toBe('edge')
    expect(standingOf({ value: 9, low: 8, high: 11 }, band)).toBe('below')
    expect(standingOf({ value: 13, low: 11, high: 14 }, band)).toBe('above')
    expect(standingOf({ value: 13, low: 11, high: 14 }, undefined)).toBe('open')
  })
})

describe('an ingredient', () => {
  it('whose figures contradict each other is refused', () => {
    expect(() => bottle('impossible', 90, 80)).toThrow(
      '90 % ABV with 80 g sugar and 0 g acid in 100 ml do not fit into 100 ml',
    )
  })
})
