import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import {
  abvPctOf,
  addLiquids,
  enthalpyJOf,
  ethanolWaterDensityGPerMl,
  freezingPointCOf,
  heatCapacityJPerKOf,
  liquidFromFigures,
  massFractionOf,
  massGOf,
  mixingHeatJOf,
  NOTHING,
  per100Ml,
  scaleLiquid,
  standardDrinksOf,
  sugarGPer100MlOfBrix,
  syrupDensityGPerMl,
  ThinnedLiquid,
  temperatureCFromEnthalpy,
  volumeFractionOf,
  volumeMlOf,
} from './index.ts'

const made = (volumeMl: number, abvPct: number, sugar = 0, acid = 0) => {
  const result = liquidFromFigures(volumeMl, { abvPct, sugarGPer100Ml: sugar, acidGPer100Ml: acid })
  if (!result.ok) throw new Error(result.reason)
  return result.liquid
}

describe('ethanol and water (OIML R 22 check values at 20 °C)', () => {
  it.each([
    [40, 0.333, 948.05],
    [50, 0.42426, 930.14],
    [63, 0.55105, 902.31],
    [96, 0.93838, 807.42],
  ])('%d %% ABV', (abvPct, massFraction, densityKgPerM3) => {
    const p = massFractionOf(abvPct / 100)
    expect(p).toBeCloseTo(massFraction, 4)
    expect(1000 * ethanolWaterDensityGPerMl(p)).toBeCloseTo(densityKgPerM3, 1)
  })

  it('gives 885.56 kg/m³ at 70 %, and the pure liquids', () => {
    expect(1000 * ethanolWaterDensityGPerMl(massFractionOf(0.7))).toBeCloseTo(885.56, 1)
    expect(1000 * ethanolWaterDensityGPerMl(0)).toBeCloseTo(998.2, 2)
    expect(1000 * ethanolWaterDensityGPerMl(1)).toBeCloseTo(789.24, 1)
  })

  it('knows that water is densest near 4 °C', () => {
    expect(ethanolWaterDensityGPerMl(0, 4)).toBeCloseTo(0.99997, 4)
    expect(ethanolWaterDensityGPerMl(0, 4)).toBeGreaterThan(ethanolWaterDensityGPerMl(0, 10))
  })

  it('inverts itself to 1e-9 over the whole range', () => {
    fc.assert(
      fc.property(fc.double({ min: 0, max: 1, noNaN: true }), (abv) => {
        expect(volumeFractionOf(massFractionOf(abv))).toBeCloseTo(abv, 5)
        if (abv < 0.9999) expect(Math.abs(volumeFractionOf(massFractionOf(abv)) - abv)).toBeLessThan(1e-9)
      }),
    )
  })

  it('refuses what the formula does not cover, with the value', () => {
    expect(() => ethanolWaterDensityGPerMl(1.2)).toThrow('ethanol mass fraction 1.2 is not within 0 to 1')
    expect(() => ethanolWaterDensityGPerMl(0.5, 60)).toThrow('temperature 60 °C is not within −20 to 40 °C')
    expect(() => massFractionOf(Number.NaN)).toThrow('is not within 0 to 1')
  })
})

describe('a liquid', () => {
  it('shrinks when spirit meets water: 500 ml at 63 % and 500 ml water are less than a litre', () => {
    const mixed = addLiquids(made(500, 63), made(500, 0))
    expect(volumeMlOf(mixed)).toBeLessThan(995)
    expect(volumeMlOf(mixed)).toBeGreaterThan(985)
    // 315 ml of alcohol in what is left.
    expect(abvPctOf(mixed)).toBeCloseTo(31500 / volumeMlOf(mixed), 3)
  })

  it('has the figures it was made from', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 1, max: 1000, noNaN: true }),
        fc.double({ min: 0, max: 60, noNaN: true }),
        fc.double({ min: 0, max: 50, noNaN: true }),
        fc.double({ min: 0, max: 10, noNaN: true }),
        (volumeMl, abvPct, sugar, acid) => {
          const liquid = made(volumeMl, abvPct, sugar, acid)
          expect(volumeMlOf(liquid) / volumeMl).toBeCloseTo(1, 6)
          expect(abvPctOf(liquid)).toBeCloseTo(abvPct, 5)
          expect(per100Ml(liquid, 'sugarG')).toBeCloseTo(sugar, 5)
          expect(per100Ml(liquid, 'acidG')).toBeCloseTo(acid, 5)
          expect(Math.min(...Object.values(liquid))).toBeGreaterThanOrEqual(0)
        },
      ),
    )
  })

  it('adds in grams, whatever the volumes do', () => {
    const a = made(60, 46, 2)
    const b = made(30, 0, 1.5, 6)
    expect(massGOf(addLiquids(a, b))).toBeCloseTo(massGOf(a) + massGOf(b), 10)
    expect(massGOf(addLiquids(scaleLiquid(a, 3), NOTHING))).toBeCloseTo(3 * massGOf(a), 10)
  })

  it('says why figures cannot be', () => {
    expect(liquidFromFigures(100, { abvPct: 80, sugarGPer100Ml: 90, acidGPer100Ml: 0 })).toEqual({
      ok: false,
      reason: '80 % ABV with 90 g sugar and 0 g acid in 100 ml do not fit into 100 ml',
    })
  })

  it('takes pure ethanol, and nothing at all', () => {
    expect(made(100, 100).ethanolG).toBeCloseTo(78.92, 2)
    expect(made(0, 40)).toEqual(NOTHING)
    expect(abvPctOf(NOTHING)).toBe(0)
  })

  it('counts standard drinks by grams of alcohol', () => {
    expect(standardDrinksOf(made(60, 40).ethanolG, 10)).toBeCloseTo(1.894, 3)
  })
})

describe('syrup', () => {
  it.each([
    [10, 1.0381],
    [20, 1.081],
    [30, 1.127],
    [40, 1.1765],
    [50, 1.2296],
    [60, 1.2865],
    [65, 1.3163],
  ])('of %d °Bx (%d g/ml) has the published density by table, and nearly by specific volume', (brix, density) => {
    expect(syrupDensityGPerMl(brix)).toBeCloseTo(density, 6)
    const bySpecificVolume = { ...NOTHING, sugarG: brix, waterG: 100 - brix }
    // One specific volume for all: 0.6 % in anything drinkable, 0.9 % in the richest syrup.
    const tolerance = brix <= 55 ? 0.006 : 0.009
    expect(Math.abs(100 / volumeMlOf(bySpecificVolume) / density - 1)).toBeLessThan(tolerance)
  })

  it('of 50 °Bx holds 61.5 g of sugar in 100 ml', () => {
    expect(sugarGPer100MlOfBrix(50)).toBeCloseTo(61.48, 2)
    expect(() => sugarGPer100MlOfBrix(120)).toThrow('120 °Bx is not within 0 to 70')
  })
})

describe('cold', () => {
  it.each([
    [0.05, -2.09],
    [0.1, -4.47],
    [0.2, -10.92],
    [0.4, -29.26],
  ])('ethanol at mass fraction %d freezes at %d °C (handbook)', (p, freezingC) => {
    expect(freezingPointCOf({ ...NOTHING, ethanolG: p, waterG: 1 - p })).toBeCloseTo(freezingC, 6)
  })

  it('one mol of sucrose in a kilogram of water freezes at −2.03 °C', () => {
    expect(freezingPointCOf({ ...NOTHING, waterG: 1000, sugarG: 342.3 })).toBeCloseTo(-1.86 * 1.0889, 4)
  })

  it('mixing spirit and water warms them', () => {
    const mixed = addLiquids(made(50, 80), made(50, 0))
    const enthalpyJ = enthalpyJOf(made(50, 80), 20) + enthalpyJOf(made(50, 0), 20)
    const warmedC = temperatureCFromEnthalpy(mixed, enthalpyJ)
    expect(warmedC).toBeGreaterThan(23)
    expect(warmedC).toBeLessThan(30)
  })
})

describe('figures that no liquid has', () => {
  const figures = { abvPct: 40, sugarGPer100Ml: 0, acidGPer100Ml: 0 }
  it.each([
    [60, { ...figures, abvPct: -1 }, '-1 is no figure of a liquid; 0 or more'],
    [60, { ...figures, sugarGPer100Ml: Number.NaN }, 'NaN is no figure of a liquid; 0 or more'],
    [-5, figures, '-5 is no figure of a liquid; 0 or more'],
  ])('%s ml with %o is no liquid, and no fault either', (volumeMl, wrong, reason) => {
    expect(liquidFromFigures(volumeMl, wrong)).toEqual({ ok: false, reason })
  })
})

describe('a liquid that is thinned', () => {
  it('has the heat of the same liquid with as much water, whatever it is and however it came to it', () => {
    const grams = fc.double({ min: 0, max: 300, noNaN: true })
    fc.assert(
      fc.property(grams, grams, grams, grams, fc.array(grams, { minLength: 1, maxLength: 6 }), (e, s, a, o, waters) => {
        const l = { waterG: 50, ethanolG: e, sugarG: s, acidG: a / 10, fatG: o / 10, otherG: o }
        const thinned = new ThinnedLiquid(l)
        for (const waterG of waters) {
          thinned.setWater(waterG)
          const same = { ...l, waterG }
          const near = (x: number, y: number) =>
            expect(Math.abs(x - y)).toBeLessThanOrEqual(1e-9 * Math.max(1, Math.abs(y)))
          near(thinned.heatCapacityJPerK, heatCapacityJPerKOf(same))
          near(thinned.mixingHeatJ, mixingHeatJOf(same))
          if (waterG > 1e-6) near(thinned.freezingPointC, freezingPointCOf(same))
        }
      }),
    )
    const dry = new ThinnedLiquid({ waterG: 0, ethanolG: 10, sugarG: 0, acidG: 0, fatG: 0, otherG: 0 })
    expect(dry.freezingPointC).toBe(Number.NEGATIVE_INFINITY)
  })
})
