import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { ingredientSchema } from '../house/schema.ts'
import { isAllergenUnsure, type OnShelf, sealedAsOf, toOnePerCent } from './sealedAs.ts'
import { waysToFill } from './waysToFill.ts'

const figure = (value: number) => ({ value, basis: 'label' as const })
const bottle = (slug: string, abvPct: number, more: object = {}) =>
  ingredientSchema.parse({
    slug,
    name: slug,
    kind: 'spirit',
    figures: { abvPct: figure(abvPct), sugarGPer100Ml: figure(0), acidGPer100Ml: figure(0) },
    ...more,
  })
const blend = (amounts: [string, number][]) =>
  ingredientSchema.parse({
    ...bottle('blend', 0),
    kind: 'blend',
    isSealed: true,
    recipe: { by: 'partsByVolume', components: amounts.map(([ingredient, amount]) => ({ ingredient, amount })) },
  })
const shelfOf = (bottles: readonly { slug: string; allergens: OnShelf['allergens'] }[]): OnShelf[] =>
  bottles.map(({ slug, allergens }, position) => ({ slug, allergens, position }))

describe('what others may know of a sealed blend', () => {
  const bottles = [bottle('a', 40), bottle('b', 50.4), bottle('c', 63, { allergens: ['sulphites'] })]
  const made = blend([
    ['a', 2],
    ['b', 1],
    ['c', 1],
  ])
  const known = sealedAsOf(made, [...bottles, made], shelfOf(bottles))

  it('is whole per cent and whole grams, its allergens, and shares to one per cent', () => {
    expect(known?.figures).toEqual({
      abvPct: 48,
      sugarGPer100Ml: 0,
      acidGPer100Ml: 0,
      fatGPer100Ml: 0,
      otherGPer100Ml: 0,
    })
    expect(known?.allergens).toEqual(['sulphites'])
    const shares = Object.values(known?.shares ?? {})
    expect(shares.reduce((a, b) => a + b, 0)).toBeCloseTo(1, 1)
  })
  it('a share moves by one per cent at most, and is the same step whatever the batch', () => {
    fc.assert(
      fc.property(fc.double({ min: 1e-4, max: 1, noNaN: true }), (share) => {
        const step = toOnePerCent(share)
        expect(Math.abs(step / share - 1)).toBeLessThan(0.0051)
        expect(toOnePerCent(step)).toBeCloseTo(step, 5)
      }),
    )
  })
  it('is unsure of allergens when one of anything that was there is another, not when something new comes', () => {
    if (!known) throw new Error('it can be computed')
    const shelf = shelfOf(bottles)
    expect(isAllergenUnsure(known, shelf)).toBe(false)
    expect(isAllergenUnsure(known, [...shelf, { slug: 'd', position: 9, allergens: ['celery'] }])).toBe(false)
    const changed = (slug: string, allergens: OnShelf['allergens']) =>
      shelf.map((s) => (s.slug === slug ? { ...s, allergens } : s))
    expect(isAllergenUnsure(known, changed('a', ['celery']))).toBe(true)
    expect(isAllergenUnsure(known, changed('c', []))).toBe(true)
    expect(isAllergenUnsure(known, shelf.slice(0, 2))).toBe(true)
  })
})

describe('ways of filling a recipe', () => {
  const options = { most: 1000, mostMixed: 100_000, uniform: () => 0.5 }
  const bottles = [bottle('a', 40), bottle('b', 40), bottle('c', 44), bottle('d', 70), bottle('e', 43.5)]
  const recipe = blend([
    ['a', 1],
    ['c', 1],
  ]).recipe
  if (!recipe) throw new Error('it has a recipe')
  const outside = { sugarGPer100Ml: 0, allergens: [], shares: new Map() }

  it('are all pairs whose strength rounds to what is known, as counted by hand', () => {
    const { ways, isWhole } = waysToFill(recipe, { ...outside, abvPct: 42 }, bottles, options)
    const pairs = ways.map((w) => w.join(' ')).sort()
    // 40 + 44, 40 + 43.5, either way round, with either of the two at 40.
    expect(pairs).toEqual(['a c', 'a e', 'b c', 'b e', 'c a', 'c b', 'e a', 'e b'])
    expect(isWhole).toBe(true)
  })
  it('are fewer for whoever weighed a part, and none where nothing fits', () => {
    const shares = new Map([['A', 0.5]])
    const all = waysToFill(recipe, { ...outside, abvPct: 42 }, bottles, options).ways.length
    expect(waysToFill(recipe, { ...outside, abvPct: 42, shares }, bottles, options).ways.length).toBeLessThan(all)
    expect(waysToFill(recipe, { ...outside, abvPct: 12 }, bottles, options)).toEqual({ ways: [], isWhole: true })
  })
  it('says when it did not look to the end', () => {
    expect(waysToFill(recipe, { ...outside, abvPct: 42 }, bottles, { ...options, most: 3 })).toMatchObject({
      isWhole: false,
      ways: { length: 3 },
    })
    expect(waysToFill(recipe, { ...outside, abvPct: 42 }, bottles, { ...options, mostMixed: 2 }).isWhole).toBe(false)
  })
})
