import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { METHODS } from '../cold/index.ts'
import { type DrinkDocumentInput, glassFor, resolveDrink, type Standard, standardFrom } from '../drink/index.ts'
import type { HouseBook } from '../house/index.ts'
import { made, testDrink, testHouse } from '../testing/house.ts'
import {
  along,
  distanceFrom,
  fillWithIce,
  fitRow,
  followFill,
  inScoops,
  runTolerance,
  type SolvedMeans,
  scaleServes,
  scaleToGlass,
  solveMeans,
  swapMethods,
  type Tolerance,
  type ToleranceOptions,
} from './index.ts'

function resolved(changes: Partial<DrinkDocumentInput> = {}, well = 'front', house: HouseBook = testHouse()) {
  const resolution = resolveDrink(testDrink(changes), house, well)
  if (!resolution.ok) throw new Error(JSON.stringify(resolution.problems))
  return resolution.drink
}

/** The standard that a drink, made as written at the front well, sets. */
function standardOf(changes: Partial<DrinkDocumentInput> = {}): Standard {
  return standardFrom(made(resolved(changes)).predictions)
}

const settings = testHouse().settings
const solve = (changes: Partial<DrinkDocumentInput>, standard: Standard, well = 'front') =>
  solveMeans(resolved(changes, well), standard, settings)

function reached(solved: SolvedMeans): Extract<SolvedMeans, { outcome: 'reached' }> {
  if (solved.outcome !== 'reached') throw new Error(JSON.stringify(solved).slice(0, 400))
  return solved
}

describe('the glass along the seconds', () => {
  it('is what computing the drink for each of them says', () => {
    const times = [1, 2.5, 4, 9]
    const list = along(resolved(), times, 1)
    for (const [i, durationS] of times.entries()) {
      const whole = made(resolved({ stages: [{ method: 'flashBlend', durationS }] }))
      for (const [name, predicted] of Object.entries(whole.predictions)) {
        const here = list[i]?.predictions[name as keyof typeof whole.predictions]
        expect(here?.value, `${name} after ${durationS} s`).toBeCloseTo(predicted.value, 3)
      }
      expect(list[i]?.overflowMl).toBeCloseTo(whole.glass?.fill.overflowMl ?? 0, 3)
    }
  })

  it('runs bursts each by itself, and waiting before them', () => {
    const stage = { method: 'flashBlend' as const, bursts: 3, restS: 2, waitS: 10 }
    const [at] = along(resolved({ stages: [{ ...stage, durationS: 4 }] }), [4], 1)
    const whole = made(resolved({ stages: [{ ...stage, durationS: 4 }] }))
    expect(at?.predictions.dilutionPct?.value).toBeCloseTo(whole.predictions.dilutionPct?.value ?? 0, 3)
  })
})

describe('seconds for a standard', () => {
  it('finds back the seconds that set it, inside a window with edges', () => {
    const found = reached(solve({}, standardOf()))
    expect(found.window.lowS).toBeLessThan(4)
    expect(found.window.highS).toBeGreaterThan(4)
    expect(found.isOtherIce).toBe(false)
    expect(distanceFrom(found.at, standardOf()).worst).toBeLessThanOrEqual(1)
  })

  it('just outside the edges the glass is out, and it says how', () => {
    const standard = standardOf()
    const found = reached(solve({}, standard))
    const worstAt = (s: number) => distanceFrom(along(resolved(), [s], 1)[0] as never, standard).worst
    expect(worstAt(found.window.lowS + 0.05)).toBeLessThanOrEqual(1)
    expect(worstAt(found.window.lowS - 0.1)).toBeGreaterThan(1)
    expect(worstAt(found.window.highS + 0.1)).toBeGreaterThan(1)
    expect(found.tooLong[0]).toBeDefined()
    expect(found.tooShort[0]).toBeDefined()
  })

  it('another well with wetter ice has its own seconds for the same glass', () => {
    const standard: Standard = { strengthPct: standardOf().strengthPct as never }
    const front = reached(solve({}, standard, 'front'))
    const yard = reached(solve({}, standard, 'yard'))
    expect(yard.durationS * 1).not.toBe(front.durationS)
    expect(distanceFrom(yard.at, standard).worst).toBeLessThanOrEqual(1)
  })

  it('says what cannot be reached, how near it comes, and what would', () => {
    const solved = solve({}, { ...standardOf(), sourGPer100Ml: { low: 3, high: 3.2 } })
    if (solved.outcome !== 'cannotBeReached') throw new Error(solved.outcome)
    expect(solved.misses[0]).toMatchObject({ measure: 'sourGPer100Ml', side: 'below' })
    expect(solved.worst).toBeGreaterThan(1)
    const cold = solve({}, { temperatureC: { low: -6, high: -5 }, strengthPct: standardOf().strengthPct as never })
    if (cold.outcome !== 'cannotBeReached') throw new Error(cold.outcome)
    expect(cold.helps.map((h) => h.words).join()).toMatch(/freezer|fridge/)
  })

  it('takes other ice where the seconds alone cannot', () => {
    // As much water as the mixer gives, and colder than its ice makes that drink.
    const wet = made(
      resolved({ stages: [{ method: 'flashBlend', ice: [{ kind: 'crushed', massG: 240 }], durationS: 4 }] }),
    )
    const standard = standardFrom(wet.predictions)
    const found = solve(
      { stages: [{ method: 'flashBlend', ice: [{ kind: 'crushed', massG: 180 }], durationS: 4 }] },
      standard,
    )
    const { isOtherIce, ice } = reached(found)
    expect(isOtherIce).toBe(true)
    expect(ice[0]?.massG).toBeGreaterThan(180)
    // As a hand scoops.
    for (const p of ice) expect(p.massG % 5).toBe(0)
  })

  it('has nothing to solve without a standard or a stage', () => {
    expect(solve({}, {})).toEqual({ outcome: 'noStandard' })
    expect(solve({ stages: [] }, standardOf())).toEqual({ outcome: 'noStage' })
  })

  it('solved, then made: in the window every time, or it says why not', () => {
    const methods = ['flashBlend', 'crushedShake', 'hardShake', 'whipShake', 'swizzle', 'stir', 'fullBlend'] as const
    fc.assert(
      fc.property(
        fc.constantFrom(...methods),
        fc.constantFrom('front', 'yard'),
        fc.double({ min: 0.6, max: 1.6, noNaN: true }),
        fc.double({ min: 0.3, max: 1.5, noNaN: true }),
        fc.array(fc.constantFrom('strengthPct', 'dilutionPct', 'volumeMl', 'sweetGPer100Ml', 'temperatureC'), {
          minLength: 1,
          maxLength: 5,
        }),
        (method, well, secondsTimes, tolerance, held) => {
          const durationS = METHODS[method].usual.durationS * secondsTimes
          const setBy = made(resolved({ stages: [{ method, durationS }] })).predictions
          const standard: Standard = {}
          for (const name of held as (keyof Standard)[]) {
            const value = setBy[name]?.value ?? 0
            standard[name] = { low: value - 2 * tolerance, high: value + 2 * tolerance }
          }
          const solved = solve({ stages: [{ method }] }, standard, well)
          if (solved.outcome === 'cannotBeReached') {
            expect(solved.misses.length).toBeGreaterThan(0)
            expect(solved.worst).toBeGreaterThan(1)
            return
          }
          const found = reached(solved)
          expect(found.durationS).toBeGreaterThanOrEqual(found.window.lowS - 0.03)
          expect(found.durationS).toBeLessThanOrEqual(found.window.highS + 0.03)
          // Made anew, in full, with what was found.
          const ice = [...found.ice]
          const result = made(resolved({ stages: [{ method, durationS: found.durationS, ice }] }, well))
          const { worst } = distanceFrom(
            { predictions: result.predictions, overflowMl: result.glass?.fill.overflowMl ?? 0 },
            standard,
          )
          expect(worst).toBeLessThanOrEqual(1.002)
        },
      ),
      { numRuns: 60 },
    )
  }, 60_000)
})

describe('a method swapped for another', () => {
  it('solves each to the same standard and says what stays different', () => {
    const standard: Standard = { strengthPct: standardOf().strengthPct as never }
    const swapped = swapMethods(testDrink({ standard }), standard, testHouse(), 'front')
    if (!swapped.ok) throw new Error('problems')
    expect(swapped.swaps[0]).toMatchObject({ method: 'flashBlend', isOwn: true, cannotMatch: [] })
    expect(swapped.swaps.map((s) => s.method)).toContain('stir')
    for (const swap of swapped.swaps) {
      if (swap.solved.outcome !== 'reached') continue
      const again = resolveDrink(swap.document, testHouse(), 'front')
      if (!again.ok) throw new Error('problems')
      const result = made(again.drink)
      expect(result.predictions.strengthPct?.value).toBeGreaterThanOrEqual((standard.strengthPct?.low ?? 0) - 0.05)
      expect(result.predictions.strengthPct?.value).toBeLessThanOrEqual((standard.strengthPct?.high ?? 0) + 0.05)
    }
    const stir = swapped.swaps.find((s) => s.method === 'stir')
    expect(stir?.cannotMatch.join()).toMatch(/silky and clear, no air; not frothy/)
    expect(stir?.hasStation).toBe(false)
  })

  it('reports what a drink cannot be resolved for', () => {
    const swapped = swapMethods(
      testDrink({ pours: [{ ingredient: 'no-such', volumeMl: 20 }] }),
      {},
      testHouse(),
      'front',
    )
    expect(swapped).toMatchObject({ ok: false, problems: [{ path: ['pours', 0, 'ingredient'] }] })
  })
})

describe('how often a hand lands in the standard', () => {
  const run = (options: Partial<ToleranceOptions> = {}, standard = standardOf()): Tolerance => {
    const steps = runTolerance(resolved(), standard, { skill: 'trained', runs: 600, seed: 1, ...options })
    let last = 0
    for (;;) {
      const { value, done } = steps.next()
      if (done) return value
      expect(value as number).toBeGreaterThan(last)
      last = value as number
    }
  }

  it('is the same for the same seed, and another for another', () => {
    const a = run()
    expect(run()).toEqual(a)
    expect(run({ seed: 2 }).inFraction).not.toBe(a.inFraction)
  }, 30_000)

  it('is better for a steadier hand and for a wider standard', () => {
    const wide = Object.fromEntries(
      Object.entries(standardOf()).map(([k, b]) => [
        k,
        { low: b.low - (b.high - b.low), high: b.high + (b.high - b.low) },
      ]),
    )
    expect(run({ skill: 'steady' }).inFraction).toBeGreaterThan(run({ skill: 'newHand' }).inFraction)
    expect(run({}, wide).inFraction).toBeGreaterThan(run().inFraction)
  }, 30_000)

  it('names the causes by what they do, and its own doubt', () => {
    const found = run()
    expect(found.causes.map((c) => c.cause).sort()).toEqual(['ice', 'machine', 'pours', 'seconds', 'temperature'])
    const spreads = found.causes.map((c) => c.high - c.low)
    expect([...spreads].sort((a, b) => b - a)).toEqual(spreads)
    for (const c of found.causes) expect(c.halvedInFraction).toBeGreaterThan(found.inFraction - 0.06)
    expect(found.inLow).toBeLessThan(found.inFraction)
    expect(found.inHigh).toBeGreaterThan(found.inFraction)
  }, 30_000)
})

describe('drinks in glasses', () => {
  it('tells of every glass at every well how it stands, and what runs over', () => {
    const row = fitRow(testDrink({ standard: { washLinePct: { low: 75, high: 85 } } }), testHouse())
    if (!row.ok) throw new Error(row.problem)
    expect(row.fits.map((f) => `${f.well} ${f.glass}`)).toEqual([
      'front tall',
      'front thimble',
      'yard tall',
      'yard thimble',
    ])
    expect(row.washLinePct).toBe(80)
    expect(row.fits.find((f) => f.glass === 'thimble')?.overflowMl).toBeGreaterThan(50)
    const own = row.fits.find((f) => f.isOwn && f.well === 'front')
    const whole = made(resolved())
    expect(own?.washLinePct).toBeCloseTo(whole.glass?.fill.washLinePct ?? 0, 2)
  })

  it('says what cannot be computed, in place', () => {
    expect(fitRow(testDrink({ pours: [{ ingredient: 'no-such', volumeMl: 20 }] }), testHouse())).toMatchObject({
      ok: false,
      problem: expect.stringContaining('no ingredient “no-such”'),
    })
  })

  it('counts ice in the scoops of the well', () => {
    const well = {
      ...(testHouse().wells[0] as never as object),
      scoops: [{ name: 'steel scoop', kind: 'crushed', massG: 90 }],
    }
    expect(inScoops(well as never, 'crushed', 135)).toBe('1½ × steel scoop')
    expect(inScoops(well as never, 'crushed', 40)).toBe('½ × steel scoop')
    expect(inScoops(well as never, 'pebble', 40)).toBeUndefined()
  })

  it('scales a spec to another glass: the concentrations stay', () => {
    const spec = testDrink({ standard: { washLinePct: { low: 70, high: 80 } } })
    const scaled = scaleToGlass(spec, testHouse(), 'front', 'thimble')
    if (scaled.outcome !== 'scaled') throw new Error(scaled.outcome)
    expect(scaled.factor).toBeLessThan(0.5)
    const madeIn = (d: typeof spec) => {
      const r = resolveDrink(d, testHouse(), 'front')
      if (!r.ok) throw new Error('problems')
      return made(r.drink)
    }
    const ratio = (d: typeof spec) => {
      const { beforeIce } = madeIn(d)
      return [beforeIce.abvPct, beforeIce.sugarGPer100Ml, beforeIce.acidGPer100Ml]
    }
    const [before, after] = [ratio(spec), ratio(scaled.document)]
    // Only what rounding to the jiggers does.
    before.forEach((v, i) => {
      expect(Math.abs((after[i] as number) / v - 1)).toBeLessThan(0.02 + scaled.offGridPct / 50)
    })
    expect(madeIn(scaled.document).glass?.name).toBe('thimble')
    // What changed with the size is no longer held; what stays is.
    expect(scaled.document.standard).toEqual({})
  })

  it('solves the seconds of another size anew, and pours in the words of the spec', () => {
    const standard = { ...standardOf(), washLinePct: { low: 75, high: 85 } }
    const scaled = scaleToGlass(testDrink({ standard, glass: 'thimble' }), testHouse(), 'front', 'tall')
    if (scaled.outcome !== 'scaled') throw new Error(scaled.outcome)
    expect(Object.keys(scaled.document.standard)).not.toContain('volumeMl')
    expect(scaled.durationS).toBeGreaterThan(0)
    expect(scaled.document.stages[0]?.byWell?.front?.durationS).toBe(scaled.durationS)
    const again = resolveDrink(scaled.document, testHouse(), 'front')
    if (!again.ok) throw new Error('problems')
    const { strengthPct } = made(again.drink).predictions
    expect(strengthPct?.value).toBeGreaterThanOrEqual(standard.strengthPct?.low ?? 0)
    expect(strengthPct?.value).toBeLessThanOrEqual(standard.strengthPct?.high ?? 0)
    for (const pour of scaled.document.pours) expect(['oz', 'ml']).toContain(pour.amount?.unit)
  })

  it('says when no size brings it to its line, and what it cannot compute', () => {
    const much = testDrink({ pours: [{ ingredient: 'plain-rum', volumeMl: 900 }], stages: [] })
    expect(scaleToGlass(much, testHouse(), 'front', 'thimble').outcome).toBe('cannotBeReached')
    expect(scaleToGlass(testDrink(), testHouse(), 'front', 'no-such')).toMatchObject({
      outcome: 'problem',
      problem: expect.stringContaining('no glass “no-such”'),
    })
  })
})

describe('a spec for another number of guests', () => {
  const bowl = () =>
    testDrink({
      serves: 4,
      pours: [
        { ingredient: 'plain-rum', amount: { value: 8, unit: 'oz', asWritten: '8 oz' } },
        { ingredient: 'lime-juice', volumeMl: 90 },
        { ingredient: 'sugar-syrup', amount: { value: 6, unit: 'dash' } },
      ],
      stages: [
        { method: 'hardShake', ice: [{ kind: 'machineCube', massG: 400, asWritten: '3 scoops' }], durationS: 12 },
      ],
      serveIce: [{ kind: 'crushed', massG: 200 }],
      standard: { volumeMl: { low: 400, high: 500 }, strengthPct: { low: 10, high: 20 } },
    })

  it('out of a bowl is one serve: pours and ice by one factor, counted things by halves', () => {
    const one = scaleServes(bowl(), 1)
    expect(one.serves).toBe(1)
    expect(one.pours).toMatchObject([
      { amount: { value: 2, unit: 'oz' } },
      { volumeMl: 22.5 },
      { amount: { value: 1.5, unit: 'dash' } },
    ])
    expect(one.pours[0]?.amount).not.toHaveProperty('asWritten')
    expect(one.stages[0]?.ice).toEqual([{ kind: 'machineCube', massG: 100 }])
    expect(one.serveIce).toEqual([{ kind: 'crushed', massG: 50 }])
    // How much there is has changed; what is in every 100 ml is still promised.
    expect(one.standard).toEqual({ strengthPct: { low: 10, high: 20 } })
  })

  it('there and back is the same spec where nothing is counted', () => {
    const plain = { ...bowl(), pours: bowl().pours.slice(0, 2) }
    const back = scaleServes(scaleServes(plain, 1), 4)
    expect(back.pours.map((p) => p.amount?.value ?? p.volumeMl)).toEqual([8, 90])
    expect(scaleServes(plain, 4)).toBe(plain)
  })
})

describe('ice that is filled up', () => {
  const drink = testDrink({ glass: 'tall', serveIce: [] })
  it('"to the line" is what brings the drink to where it should stand', () => {
    const filled = fillWithIce(drink, testHouse(), 'front', 'crushed', 'toLine')
    if (!filled.ok) throw new Error(filled.reason)
    const glass = glassFor({ ...drink, serveIce: [{ kind: 'crushed', massG: filled.massG }] }, testHouse(), 'front')
    expect(glass.ok && Math.abs(glass.result.glass?.fill.washLinePct ?? 0)).toBeGreaterThan(80)
    expect(glass.ok && Math.abs((glass.result.glass?.fill.washLinePct ?? 0) - 85)).toBeLessThan(3)
  })
  it('"half the glass" is half of it full of that ice; without a glass it is neither', () => {
    const half = fillWithIce(drink, testHouse(), 'front', 'crushed', 'halfGlass')
    const cubes = fillWithIce(drink, testHouse(), 'front', 'machineCube', 'halfGlass')
    expect(half.ok && cubes.ok && half.massG > cubes.massG).toBe(true)
    const { glass: _, ...without } = drink
    expect(fillWithIce(without, testHouse(), 'front', 'crushed', 'toLine')).toMatchObject({ ok: false })
    const brimming = testDrink({ glass: 'tall', serveIce: [], pours: [{ ingredient: 'soda', volumeMl: 600 }] })
    expect(fillWithIce(brimming, testHouse(), 'front', 'crushed', 'toLine')).toMatchObject({
      ok: false,
      reason: expect.stringContaining('without any ice'),
    })
  })
  it('follows what is poured, at each well, and stays with other ice in the glass', () => {
    const house = testHouse()
    const toLine = { kind: 'crushed', massG: 1, asWritten: 'to the line', fill: 'toLine' } as const
    const drink = followFill(
      testDrink({
        glass: 'tall',
        serveIce: [{ kind: 'bigCube', massG: 60 }, toLine],
        serveIceByWell: { yard: [toLine] },
      }),
      house,
    )
    const lineAt = (document: typeof drink, well: string) =>
      made(resolved(document, well, house)).glass?.fill.washLinePct ?? Number.NaN
    for (const well of ['front', 'yard']) expect(Math.abs(lineAt(drink, well) - 85)).toBeLessThan(0.5)
    expect(drink.serveIce[0]).toEqual({ kind: 'bigCube', massG: 60 })
    expect(followFill(drink, house)).toBe(drink)

    const [first, ...others] = drink.pours
    const more = followFill(
      { ...drink, pours: [{ ...first, amount: { value: 75, unit: 'ml' } } as (typeof drink.pours)[number], ...others] },
      house,
    )
    for (const well of ['front', 'yard']) expect(Math.abs(lineAt(more, well) - 85)).toBeLessThan(0.5)
    expect(more.serveIce[1]?.massG).toBeLessThan((drink.serveIce[1]?.massG ?? 0) - 5)
    expect(more.serveIceByWell?.yard?.[0]?.massG).toBeLessThan((drink.serveIceByWell?.yard?.[0]?.massG ?? 0) - 5)

    const { glass: _, ...without } = more
    expect(followFill(without, house)).toBe(without)
    // Two kinds that are both to fill it: neither is chased by the other.
    const both = followFill({ ...drink, serveIce: [{ ...toLine, kind: 'cracked' }, toLine] }, house)
    expect(followFill(both, house)).toBe(both)
    expect(scaleServes({ ...more, serves: 2 }, 1).serveIce[1]).not.toHaveProperty('fill')
  })
})
