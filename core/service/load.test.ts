import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { iceGOf, type Method } from '../cold/index.ts'
import {
  computeDrink,
  type DrinkDocument,
  MEASURE_NAMES,
  MEASURES,
  resolveDrink,
  standardFrom,
} from '../drink/index.ts'
import { massGOf } from '../liquid/index.ts'
import { distanceFrom } from '../means/index.ts'
import { testDrink, testHouse, withTinsOf } from '../testing/house.ts'
import { afterWorking, chillClock, readingAt } from './clock.ts'
import { leftSo, type MadeLoad, makeLoad } from './load.ts'
import { type InTin, pouredOtherwise } from './poured.ts'
import { fullMlOf, glassOf, sharedOf } from './shared.ts'

const BOOK = testHouse()
const resolved = (document: DrinkDocument, well: string) => {
  const made = resolveDrink(document, BOOK, well)
  if (!made.ok) throw new Error(JSON.stringify(made.problems))
  return made.drink
}
/** Promises the glass that it makes at a well. */
function promising(document: DrinkDocument, well: string): DrinkDocument {
  const made = computeDrink(resolved(document, well))
  return made.ok ? { ...document, standard: standardFrom(made.result.predictions) } : document
}

const diluted = ({ predictions }: MadeLoad) => predictions.dilutionPct?.value ?? 0

const METHODS = ['hardShake', 'crushedShake', 'whipShake', 'flashBlend', 'fullBlend', 'stir'] as const
const anyDrink = fc.record({
  method: fc.constantFrom<Method>(...METHODS),
  rumMl: fc.integer({ min: 20, max: 75 }),
  limeMl: fc.integer({ min: 5, max: 30 }),
  syrupMl: fc.integer({ min: 5, max: 25 }),
  durationS: fc.integer({ min: 2, max: 15 }),
  well: fc.constantFrom('front', 'yard'),
  glasses: fc.integer({ min: 2, max: 4 }),
  pour: fc.constantFrom('open' as const, 'gated' as const, 'strained' as const),
})
type AnyDrink = typeof anyDrink extends fc.Arbitrary<infer T> ? T : never
const drinkOf = ({ method, rumMl, limeMl, syrupMl, durationS, pour, well }: AnyDrink, more = {}) =>
  promising(
    testDrink({
      pours: [
        { ingredient: 'plain-rum', volumeMl: rumMl },
        { ingredient: 'lime-juice', volumeMl: limeMl },
        { ingredient: 'sugar-syrup', volumeMl: syrupMl },
        { ingredient: 'soda', volumeMl: 30, into: 'glass' },
      ],
      stages: [{ method, durationS, pour }],
      serveIce: [{ kind: 'crushed', massG: 20 }],
      ...more,
    }),
    well,
  )

describe('several glasses of a drink in one go', () => {
  it('shares out evenly just what was in the tin: nothing is lost but what stays on ice and strainer', () => {
    fc.assert(
      fc.property(anyDrink, fc.double({ min: 0.5, max: 1.5, noNaN: true }), (any, iceTimes) => {
        const shared = sharedOf(resolved(drinkOf(any), any.well), any.glasses, iceTimes * any.glasses)
        const made = glassOf(shared, any.durationS)
        if (!made.ok) return
        const inG = massGOf(shared.tinStart.mixture.liquid) + (shared.tin.stages[0]?.parameters.iceG ?? 0)
        const each = massGOf(made.part.mixture.liquid) + iceGOf(made.part.mixture)
        if (any.pour === 'open') expect(any.glasses * each).toBeCloseTo(inG, 6)
        else expect(any.glasses * each).toBeLessThan(inG)
        // What was poured is in the glasses, to what stayed behind: the same share of everything dissolved.
        const { ethanolG, sugarG, acidG } = shared.tinStart.mixture.liquid
        const { liquid } = made.part.mixture
        const share = (any.glasses * liquid.ethanolG) / ethanolG
        expect(share).toBeLessThanOrEqual(1 + 1e-9)
        expect((any.glasses * liquid.sugarG) / sugarG).toBeCloseTo(share, 6)
        expect((any.glasses * liquid.acidG) / acidG).toBeCloseTo(share, 6)
      }),
      { numRuns: 60 },
    )
  })

  it('lands where one glass of it is promised to be, or says why not', () => {
    const outcomes = new Set<string>()
    fc.assert(
      fc.property(anyDrink, (any) => {
        const document = drinkOf(any)
        const load = makeLoad(document, BOOK, any.well, any.glasses)
        outcomes.add(load.ok ? 'made' : load.why)
        if (!load.ok) {
          expect(load.words.length).toBeGreaterThan(10)
          return
        }
        const { made } = load
        expect(made.worst).toBeLessThanOrEqual(1.05)
        if (made.worst <= 1) expect(made.misses).toEqual([])
        expect(made.fullMl).toBeLessThanOrEqual(made.holdsMl ?? 0)
        expect(made.liquidMl).toBeCloseTo(any.glasses * (any.rumMl + any.limeMl + any.syrupMl), -1)
        // The seconds are in the window that is shown with them.
        if (made.window && made.durationS !== undefined) {
          expect(made.durationS).toBeGreaterThanOrEqual(made.window.lowS - 1e-9)
          expect(made.durationS).toBeLessThanOrEqual(made.window.highS + 1e-9)
        }
      }),
      { numRuns: 60 },
    )
    // All of it was met: a property that only ever sees one of them holds nothing.
    expect([...outcomes]).toEqual(expect.arrayContaining(['made', 'tooFull', 'outOfWindow']))
  })

  it('needs longer than one: the same ice and arm have more to chill', () => {
    const document = promising(testDrink({ stages: [{ method: 'crushedShake', durationS: 6 }] }), 'front')
    const [one, two] = [1, 2].map((n) => makeLoad(document, BOOK, 'front', n))
    if (!one?.ok || !two?.ok) throw new Error('both can be made')
    expect(two.made.durationS).toBeGreaterThan(one.made.durationS ?? 0)
    expect(one.made.durationS).toBe(6)
    // Each of the two is as far from one glass as the usual tolerance of its standard, and no further.
    for (const measure of MEASURE_NAMES) {
      const [a, b] = [one, two].map((l) => l.made.predictions[measure]?.value ?? 0)
      expect(Math.abs((a ?? 0) - (b ?? 0)), measure).toBeLessThanOrEqual(MEASURES[measure].tolerance * 1.05)
    }
  })

  it('is one for one: the figures of a single glass are those of the drink', () => {
    const document = testDrink()
    const alone = computeDrink(resolved(document, 'front'))
    const load = makeLoad(document, BOOK, 'front', 1)
    if (!alone.ok || !load.ok) throw new Error('both can be made')
    for (const [measure, p] of Object.entries(alone.result.predictions))
      expect(load.made.predictions[measure as 'volumeMl']?.value).toBeCloseTo(p.value, 6)
  })

  it('is not made where every one is made in its glass, nor where the tin is too small', () => {
    const swizzled = makeLoad(testDrink({ stages: [{ method: 'swizzle' }] }), BOOK, 'front', 2)
    expect(swizzled).toMatchObject({ ok: false, why: 'inGlass' })
    expect(makeLoad(testDrink(), withTinsOf(250), 'front', 2)).toEqual({
      ok: false,
      why: 'tooFull',
      words: expect.stringMatching(/^2 in one go are \d+ ml with the least ice; it works with 250 ml$/),
    })
  })
})

describe('a bowl that its vessel does not hold', () => {
  // Poured into something that is large enough.
  const document = (any: AnyDrink, times: number) =>
    drinkOf(
      { ...any, rumMl: any.rumMl * times, limeMl: any.limeMl * times, syrupMl: any.syrupMl * times },
      { glass: undefined },
    )

  it('is made in as few goes as it holds, with nothing lost between them, and lands like all at once or says how far off', () => {
    const seen = new Set<number>()
    const landed = new Set<boolean>()
    fc.assert(
      fc.property(
        anyDrink,
        fc.integer({ min: 2, max: 4 }),
        fc.integer({ min: 150, max: 700 }),
        (any, times, holdsMl) => {
          const house = withTinsOf(holdsMl)
          const bowl = document(any, times)
          const load = makeLoad(bowl, house, any.well, 1)
          if (!load.ok) return
          const { made } = load
          const resolution = resolveDrink(bowl, house, any.well)
          if (!resolution.ok) throw new Error('bug: it was made')
          seen.add(made.goes)
          const full = (goes: number) => fullMlOf(sharedOf(resolution.drink, 1 / goes))
          if (made.goes > 1) expect(full(made.goes - 1)).toBeGreaterThan(holdsMl)
          expect(made.fullMl <= holdsMl || (made.goes === 1 && full(4) > holdsMl)).toBe(true)
          expect(made.goes * made.liquidMl).toBeCloseTo(times * (any.rumMl + any.limeMl + any.syrupMl), -1)
          // All goes together are the whole, to the gram.
          const shared = sharedOf(resolution.drink, 1 / made.goes, made.iceTimes)
          const glass = glassOf(shared, made.durationS)
          if (!glass.ok) throw new Error('bug: it was made')
          const inG = massGOf(shared.tinStart.mixture.liquid) + (shared.tin.stages[0]?.parameters.iceG ?? 0)
          const outG = massGOf(glass.part.mixture.liquid) + iceGOf(glass.part.mixture)
          if (any.pour === 'open') expect(outG).toBeCloseTo(made.goes * inG, 6)
          else expect(outG).toBeLessThan(made.goes * inG)
          if (made.worst > 1) expect(made.misses.length).toBeGreaterThan(0)
          if (made.goes === 1) return
          landed.add(made.worst <= 1)
          // Where it does not land, no other seconds do: they are all looked at.
          const worstAt = (durationS: number) => {
            const other = glassOf(shared, durationS)
            if (!other.ok) return Number.POSITIVE_INFINITY
            const overflowMl = other.report?.fill.overflowMl ?? 0
            return distanceFrom({ predictions: other.predictions, overflowMl }, made.standard).worst
          }
          const best = Math.min(...Array.from({ length: 60 }, (_, i) => worstAt(Number((0.25 * 1.07 ** i).toFixed(1)))))
          expect(made.worst).toBeLessThanOrEqual(Math.max(1, best + 0.25))
        },
      ),
      { numRuns: 80 },
    )
    expect([...seen].sort()).toEqual([1, 2, 3, 4])
    expect([...landed].sort()).toEqual([false, true])
  })

  it('that was begun in other goes goes on in them, whatever the vessel holds', () => {
    const [bowl, wide, narrow] = [testDrink(), withTinsOf(2000), withTinsOf(180)]
    const goes = (house: typeof wide, begunIn?: number) => {
      const load = makeLoad(bowl, house, 'front', 1, begunIn)
      if (!load.ok) throw new Error(load.words)
      return [load.made.goes, Math.round(load.made.liquidMl)]
    }
    const [one] = [goes(wide)]
    expect(one[0]).toBe(1)
    expect(goes(narrow)).toEqual([2, Math.round((one[1] as number) / 2)])
    expect(goes(wide, 2)).toEqual(goes(narrow))
    expect(goes(narrow, 1)).toEqual(one)
    // Several glasses are shared out of one vessel: they have no goes.
    expect(makeLoad(bowl, wide, 'front', 2, 3)).toEqual(makeLoad(bowl, wide, 'front', 2))
  })

  it('is too full where a quarter of it is', () => {
    const load = makeLoad(testDrink(), withTinsOf(50), 'front', 1)
    if (!load.ok) throw new Error(load.words)
    expect(load.made.goes).toBe(1)
    expect(load.made.fullMl).toBeGreaterThan(50)
  })
})

describe('a load with too much of something left in it', () => {
  it('is reckoned with what is in, and its seconds change only where that lands', () => {
    const outcomes = new Set<string>()
    fc.assert(
      fc.property(
        anyDrink,
        fc.constantFrom(0, 1, 2),
        fc.double({ min: 1, max: 1.8, noNaN: true }),
        (any, line, times) => {
          const document = drinkOf(any)
          const glasses = any.glasses - 1
          const load = makeLoad(document, BOOK, any.well, glasses)
          if (!load.ok) return
          const { made } = load
          const oneMl = [any.rumMl, any.limeMl, any.syrupMl][line] as number
          const inTin = { [line]: oneMl * glasses * times }
          const left = leftSo(document, BOOK, any.well, made, inTin)
          const moreMl = oneMl * glasses * (times - 1)
          if (left === made) {
            outcomes.add('as it was')
            expect(moreMl).toBeLessThanOrEqual(0.5)
            return
          }
          expect(left.liquidMl - made.liquidMl).toBeCloseTo(moreMl, -0.5)
          const wrong = pouredOtherwise(resolved(document, any.well), glasses, inTin)
          const before = glassOf(sharedOf(wrong, glasses, made.iceTimes), made.durationS)
          if (!before.ok) throw new Error('it can be computed with other seconds')
          const overflowMl = before.report?.fill.overflowMl ?? 0
          const was = distanceFrom({ predictions: before.predictions, overflowMl }, made.standard)
          // It never proposes something further off than what a hand would do without it.
          expect(left.worst).toBeLessThanOrEqual(was.worst + 1e-9)
          if (left.window === made.window) {
            outcomes.add('nothing helps')
            expect(left.worst).toBeGreaterThan(1)
            expect(left.durationS).toBe(made.durationS)
          } else {
            outcomes.add(left.durationS === made.durationS ? 'same seconds' : 'other seconds')
            expect(left.worst).toBeLessThanOrEqual(1)
            expect(left.durationS).toBeGreaterThanOrEqual((left.window?.lowS ?? 0) - 1e-9)
            expect(left.durationS).toBeLessThanOrEqual((left.window?.highS ?? 0) + 1e-9)
          }
          // The clock reads the same glass at its seconds.
          const clock = chillClock(document, BOOK, any.well, left)
          if (!clock || left.durationS === undefined) throw new Error('bug: it is chilled')
          expect(Math.abs((readingAt(clock, left.durationS)?.dilutionPct ?? 0) - diluted(left))).toBeLessThan(2)
          const worked = afterWorking(document, BOOK, any.well, left, left.durationS)
          expect(worked?.worst).toBeCloseTo(left.worst, 2)
        },
      ),
      { numRuns: 150 },
    )
    expect([...outcomes].sort()).toEqual(['as it was', 'nothing helps', 'other seconds', 'same seconds'])
  })

  it('still wants what is not all in: that is poured, not left', () => {
    const document = promising(testDrink({ stages: [{ method: 'crushedShake', durationS: 6 }] }), 'front')
    const load = makeLoad(document, BOOK, 'front', 2)
    if (!load.ok) throw new Error(load.words)
    const left = (inTin: InTin) => leftSo(document, BOOK, 'front', load.made, inTin).predictions
    expect(left({ 0: 150 })).not.toEqual(load.made.predictions)
    expect(left({ 0: 150, 1: 10 })).toEqual(left({ 0: 150 }))
  })
})
