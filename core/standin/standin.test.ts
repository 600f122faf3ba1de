import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { glassFor } from '../drink/index.ts'
import type { Ingredient } from '../house/index.ts'
import { liquidFromFigures, scaleLiquid } from '../liquid/index.ts'
import { type Slot, STYLE_AXIS_NAMES, type Style } from '../palate/index.ts'
import { bottle, testDrink, testHouse } from '../testing/house.ts'
import {
  DEFAULT_LIMIT_PER_LINE,
  DEFAULT_LIMIT_STEPS,
  distanceTo,
  findStandIns,
  refusedFor,
  SPIRIT_WEIGHTS,
  type StandInBottle,
  type StandInTarget,
  SWEET_WEIGHTS,
  standInBottles,
  standInEffect,
  targetOf,
} from './index.ts'

function spirit(slug: string, abvPct: number, style: Style, more: Partial<StandInBottle> & { sugar?: number } = {}) {
  const made = liquidFromFigures(100, { abvPct, sugarGPer100Ml: more.sugar ?? 0, acidGPer100Ml: 0 })
  if (!made.ok) throw new Error(made.reason)
  const { sugar: _, ...rest } = more
  return { slug, name: slug, style, perMl: scaleLiquid(made.liquid, 0.01), depth: 0, pricePerLitre: 30, ...rest }
}

const wanted = (style: Style, abv: number, more: Partial<StandInTarget> = {}): StandInTarget => ({
  style,
  abvPct: { low: abv, high: abv },
  sugarGPer100Ml: 0,
  acidGPer100Ml: 0,
  depth: 0,
  pricePerLitre: 30,
  ...more,
})

/** Every mixture on the grid, weighed by the reference one at a time. */
function byBruteForce(
  target: StandInTarget,
  bottles: readonly StandInBottle[],
  { units, stepMl, weights = SPIRIT_WEIGHTS }: { units: number; stepMl: number; weights?: typeof SPIRIT_WEIGHTS },
  isWithin: (d: ReturnType<typeof distanceTo>) => boolean,
): number[][] {
  const found: number[][] = [[], [], []]
  const weigh = (parts: { bottle: StandInBottle; volumeMl: number }[]) => {
    const distance = distanceTo(target, parts, weights)
    if (isWithin(distance)) found[parts.length - 1]?.push(distance.steps)
  }
  const fill = (from: number, left: number, parts: { bottle: StandInBottle; volumeMl: number }[]) => {
    if (left === 0) return weigh(parts)
    if (parts.length === 3) return
    for (let i = from; i < bottles.length; i++) {
      for (let u = 1; u <= left; u++)
        fill(i + 1, left - u, [...parts, { bottle: bottles[i] as StandInBottle, volumeMl: u * stepMl }])
    }
  }
  fill(0, units, [])
  return found.map((list) => list.sort((a, b) => a - b).slice(0, 2))
}

/** To the rounding of a sum: a step that is just the limit is within it. */
const withinDefaults = (d: ReturnType<typeof distanceTo>) =>
  d.steps <= DEFAULT_LIMIT_STEPS && Object.values(d.style).every((s) => Math.abs(s) <= DEFAULT_LIMIT_PER_LINE + 1e-9)

describe('the distance', () => {
  it('is the weighted mean of steps, by hand', () => {
    const d = distanceTo(
      wanted({ oak: 4, funk: 2 }, 40, { depth: 4 }),
      [
        { bottle: spirit('a', 40, { oak: 6, funk: 2 }, { depth: 6, pricePerLitre: 60 }), volumeMl: 30 },
        { bottle: spirit('b', 40, { oak: 4, funk: 2 }, { depth: 4, pricePerLitre: 30 }), volumeMl: 30 },
      ],
      SPIRIT_WEIGHTS,
    )
    // oak 1 step, colour half a step, price 45 for 30: half again as dear, two steps.
    expect(d).toMatchObject({ style: { oak: 1, funk: 0 }, colour: 0.5, price: 2, sugar: 0, acid: 0 })
    expect(d.strength).toBeCloseTo(0, 6)
    const weights = 2 + 1.5 + 1 + 0.5 + 0.5 + 0.5
    expect(d.steps).toBeCloseTo((1 + 0.5 * 0.5 + 0.5 * 2) / weights, 6)
  })

  it('takes strength by the alcohol tables: a mixture of 40 and 80 % is above the mean', () => {
    const half = [spirit('a', 40, {}), spirit('b', 80, {})].map((b) => ({ bottle: b, volumeMl: 30 }))
    const { strength } = distanceTo(wanted({}, 60), half, SPIRIT_WEIGHTS)
    expect(2 * strength).toBeGreaterThan(0.3)
    expect(2 * strength).toBeLessThan(1.5)
  })

  it('does not mind a band, or a cheaper bottle', () => {
    const target = wanted({ oak: 1 }, 0, { abvPct: { low: 40, high: 46 } })
    const d = distanceTo(
      target,
      [{ bottle: spirit('a', 43, { oak: 1 }, { pricePerLitre: 5 }), volumeMl: 60 }],
      SPIRIT_WEIGHTS,
    )
    expect(d.steps).toBeCloseTo(0, 6)
  })
})

describe('the search', () => {
  it('finds the two bottles that a missing third lies between', () => {
    const bottles = [
      spirit('light', 40, { weight: 2, oak: 2 }),
      spirit('heavy', 48, { weight: 8, oak: 6 }),
      spirit('odd', 44, { weight: 5, oak: 9 }),
    ]
    const result = findStandIns(wanted({ weight: 5, oak: 4 }, 44), bottles, { volumeMl: 60, stepMl: 7.5 })
    const best = result.byCount[1]?.[0]
    expect(best?.parts).toEqual([
      { slug: 'light', name: 'light', volumeMl: 30 },
      { slug: 'heavy', name: 'heavy', volumeMl: 30 },
    ])
    expect(best?.distance.steps).toBeLessThan(0.05)
    expect(result.outcome).toBe('found')
  })

  it('does not take the look-alike of the same strength and another character', () => {
    const heavy = wanted({ weight: 9, funk: 9, oak: 2, dryness: 4 }, 63)
    const lookAlike = spirit('dry-column', 63, { weight: 2, funk: 0, oak: 2, dryness: 9 })
    const result = findStandIns(heavy, [lookAlike], { volumeMl: 60, stepMl: 7.5 })
    expect(result.outcome).toBe('nothingNear')
    expect(result.byCount.flat()).toEqual([])
    expect(result.nearest?.parts[0]?.slug).toBe('dry-column')
    expect(result.nearest?.distance.style.funk).toBe(-9)
  })

  it('says when there is nothing to try, and what could not be compared', () => {
    expect(findStandIns(wanted({ oak: 2 }, 40), [], { volumeMl: 60, stepMl: 7.5 }).outcome).toBe('nothingToTry')
    const untasted = findStandIns(wanted({ oak: 2, smoke: 1 }, 40), [spirit('a', 40, { oak: 2 })], {
      volumeMl: 60,
      stepMl: 7.5,
    })
    expect(untasted).toMatchObject({ outcome: 'nothingToTry', leftOut: [{ slug: 'a', lines: ['smoke'] }] })
  })

  it('pours only what the house can measure', () => {
    const bottles = [spirit('light', 40, { weight: 0 }), spirit('heavy', 40, { weight: 8 })]
    const result = findStandIns(wanted({ weight: 1 }, 40), bottles, {
      volumeMl: 60,
      stepMl: 7.5,
      canPour: (ml) => ml % 15 === 0,
    })
    for (const { parts } of result.byCount.flat()) for (const p of parts) expect(p.volumeMl % 15).toBe(0)
  })

  it('refuses a grid that is none', () => {
    for (const volumeMl of [0, -30, Number.NaN, 10_000])
      expect(() => findStandIns(wanted({}, 40), [], { volumeMl, stepMl: 7.5 })).toThrow(RangeError)
    expect(() => findStandIns(wanted({}, 40), [], { volumeMl: 60, stepMl: 7.5, mostBottles: 4 })).toThrow(RangeError)
  })

  const bottleArb = (slug: string) =>
    fc
      .record({
        abv: fc.integer({ min: 35, max: 75 }),
        weight: fc.integer({ min: 0, max: 10 }),
        oak: fc.integer({ min: 0, max: 10 }),
        funk: fc.integer({ min: 0, max: 10 }),
        depth: fc.option(fc.integer({ min: 0, max: 10 }), { nil: undefined }),
        pricePerLitre: fc.option(fc.integer({ min: 10, max: 90 }), { nil: undefined }),
        sugar: fc.integer({ min: 0, max: 8 }),
      })
      .map(({ abv, weight, oak, funk, ...more }) => spirit(slug, abv, { weight, oak, funk }, more))

  const searchArb = fc.record({
    bottles: fc
      .integer({ min: 1, max: 7 })
      .chain((n) => fc.tuple(...Array.from({ length: n }, (_, i) => bottleArb(`b${i}`)))),
    target: fc
      .record({
        style: fc.record({
          weight: fc.integer({ min: 0, max: 10 }),
          oak: fc.integer({ min: 0, max: 10 }),
          funk: fc.integer({ min: 0, max: 10 }),
        }),
        abv: fc.integer({ min: 38, max: 65 }),
        depth: fc.option(fc.integer({ min: 0, max: 10 }), { nil: undefined }),
      })
      .map(({ style, abv, depth }) => wanted(style, abv, { depth })),
    units: fc.integer({ min: 1, max: 8 }),
    weights: fc.constantFrom(SPIRIT_WEIGHTS, SWEET_WEIGHTS),
  })

  it('is the best and the runner-up of one, two and three bottles, proven against every mixture', () => {
    fc.assert(
      fc.property(searchArb, ({ bottles, target, units, weights }) => {
        const stepMl = 7.5
        const result = findStandIns(target, bottles, { volumeMl: units * stepMl, stepMl, weights })
        const expected = byBruteForce(target, bottles, { units, stepMl, weights }, withinDefaults)
        for (const [k, steps] of expected.entries()) {
          const got = result.byCount[k]?.map((a) => a.distance.steps) ?? []
          expect(got.length).toBe(steps.length)
          for (const [i, s] of got.entries()) expect(s).toBeCloseTo(steps[i] ?? Number.NaN, 9)
        }
        if (expected.flat().length === 0 && bottles.length > 0) {
          const all = byBruteForce(target, bottles, { units, stepMl, weights }, () => true)
          expect(result.nearest?.distance.steps).toBeCloseTo(Math.min(...all.flat()), 9)
        }
      }),
      { numRuns: 150 },
    )
  })

  it('gives the same answer twice, and for any order of equal bottles an equally good one', () => {
    fc.assert(
      fc.property(searchArb, ({ bottles, target, units, weights }) => {
        const ask = (list: StandInBottle[]) =>
          findStandIns(target, list, { volumeMl: units * 7.5, stepMl: 7.5, weights })
        const once = ask(bottles)
        expect(ask(bottles)).toEqual(once)
        const turned = ask([...bottles].reverse())
        const steps = (r: typeof once) => r.byCount.flatMap((list) => list.map((a) => a.distance.steps.toFixed(9)))
        expect(steps(turned)).toEqual(steps(once))
      }),
      { numRuns: 40 },
    )
  })
})

const at = (value: number) => ({ value, low: value, high: value, tasters: 1 })
const placed = (value: number) => Object.fromEntries(STYLE_AXIS_NAMES.map((axis) => [axis, at(value)]))

function shelf(): ReturnType<typeof testHouse> {
  const house = testHouse()
  const more: Ingredient[] = [
    bottle('missing-rum', 45, 0, 0, { stock: 'out', price: 21, size: 700, colour: 'amber' }),
    bottle('low-rum', 40, 0, 0, { price: 14, size: 700, colour: 'gold' }),
    bottle('high-rum', 50, 0, 0, { price: 28, size: 700, colour: 'mahogany' }),
    bottle('gone-rum', 45, 0, 0, { stock: 'discontinued' }),
    bottle('dry-wine', 18, 1, 0.5, { kind: 'wine' }),
  ]
  return {
    ...house,
    ingredients: [...house.ingredients, ...more],
    profiles: { 'missing-rum': placed(5), 'low-rum': placed(4), 'high-rum': placed(6), 'gone-rum': placed(5) },
  }
}

describe('a missing bottle of the house', () => {
  const house = shelf()
  const missing = { ingredient: house.ingredients.find((i) => i.slug === 'missing-rum') as Ingredient }

  it('is looked for among its own kind, in stock, without the refused', () => {
    const slugs = standInBottles(missing, house).map((b) => b.slug)
    expect(slugs).toEqual(['plain-rum', 'strong-rum', 'low-rum', 'high-rum'])
    expect(standInBottles(missing, house, new Set(['low-rum'])).map((b) => b.slug)).not.toContain('low-rum')
    const slot = {
      name: 'Amber',
      candidates: [{ ingredient: 'missing-rum' }],
      refused: [{ ingredient: 'strong-rum', reason: 'dry', by: 'Lead', on: '2026-01-01' }],
    } as unknown as Slot
    expect(refusedFor(missing, [slot])).toEqual([{ slug: 'strong-rum', reason: 'dry', slot: 'Amber' }])
  })

  it('is found between two others, and its drink keeps its strength by seconds', () => {
    const target = targetOf(missing, house)
    expect(target).toMatchObject({ abvPct: { low: 45, high: 45 }, depth: 6, pricePerLitre: 30 })
    const result = findStandIns(target, standInBottles(missing, house), { volumeMl: 60, stepMl: 7.5 })
    expect(result.leftOut.map((l) => l.slug)).toEqual(['plain-rum', 'strong-rum'])
    const two = result.byCount[1]?.[0]
    expect(two?.parts.map((p) => [p.slug, p.volumeMl])).toEqual([
      ['low-rum', 30],
      ['high-rum', 30],
    ])
    if (!two) return
    const drink = testDrink({
      pours: [
        { ingredient: 'missing-rum', amount: { value: 2, unit: 'oz' } },
        { ingredient: 'lime-juice', volumeMl: 22.5 },
      ],
    })
    const one = result.byCount[0]?.[0]
    for (const answer of [two, one]) {
      if (!answer) throw new Error('one bottle is near enough, too')
      const effect = standInEffect(drink, 0, answer, house, 'front')
      if (!effect.ok) throw new Error(effect.reason)
      const { before, corrected, document } = effect.effect
      expect(document.pours).toHaveLength(answer.parts.length + 1)
      if (corrected.outcome !== 'reached') throw new Error(corrected.outcome)
      expect(corrected.predictions.strengthPct?.value).toBeCloseTo(before.strengthPct?.value ?? 0, 1)
      const shown = glassFor(document, house, 'front')
      expect(shown.ok && shown.result.predictions.strengthPct?.value).toBe(effect.effect.after.strengthPct?.value)
    }
  })

  it('says when no seconds bring the strength back', () => {
    const drink = testDrink({
      pours: [
        { ingredient: 'missing-rum', amount: { value: 2, unit: 'oz' } },
        { ingredient: 'soda', volumeMl: 30 },
      ],
    })
    const weak = { parts: [{ slug: 'dry-wine', name: 'dry wine', volumeMl: 60 }] }
    const effect = standInEffect(drink, 0, weak, house, 'front')
    expect(effect.ok && effect.effect.corrected.outcome).toBe('cannotBeReached')
    expect(standInEffect(drink, 7, weak, house, 'front').ok).toBe(false)
  })
})
