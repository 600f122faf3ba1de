import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { PourLine } from '../drink/index.ts'
import type { Ingredient } from '../house/index.ts'
import { ingredientSchema } from '../house/schema.ts'
import { scaleLiquid } from '../liquid/index.ts'
import { DEFAULT_KIT } from '../measure/index.ts'
import type { Flight } from '../palate/index.ts'
import { bottle, testHouse } from '../testing/house.ts'
import {
  collapseToBlend,
  createMixer,
  expandBlend,
  lettersOf,
  partsFromLines,
  type Recipe,
  recipeProblems,
  resolveHouse,
  sharesOf,
  withLetters,
  withVolumes,
} from './index.ts'

const unknown = { value: 0, basis: 'assumed' as const }
const document = (recipe: Recipe | undefined, more: object = {}) => ({
  slug: 'code-name',
  name: 'Code Name',
  kind: 'blend',
  figures: { abvPct: unknown, sugarGPer100Ml: unknown, acidGPer100Ml: unknown },
  recipe,
  ...more,
})
const blend = (recipe: Recipe, more: object = {}): Ingredient => ingredientSchema.parse(document(recipe, more))
const parts = (...amounts: number[]): Recipe => ({
  by: 'partsByVolume',
  components: amounts.map((amount, i) => ({
    ingredient: ['plain-rum', 'strong-rum', 'third-rum'][i] ?? `rum-${i}`,
    amount,
  })),
})
const shelf = [...testHouse().ingredients, bottle('third-rum', 50, 0, 0, { price: 35, size: 700 })]

describe('a blend', () => {
  it('is as strong as the alcohol tables say, above the mean of its parts', () => {
    const result = createMixer([...shelf, blend(parts(1, 1))]).mixOf('code-name')
    if (!result.ok) throw new Error('not resolved')
    // 100 ml of 40 % and 100 ml of 69 %: 109 ml of alcohol, in a little less than 200 ml.
    const { volumeMl, figures } = result.mix
    expect(volumeMl).toBeLessThan(200)
    expect(volumeMl).toBeGreaterThan(197)
    expect(figures.abvPct).toBeCloseTo(10_900 / volumeMl, 6)
    expect(figures.abvPct).toBeGreaterThan(54.5)
  })

  it('is the same in parts, in ml and in per cent', () => {
    const abv = (recipe: Recipe) => {
      const result = createMixer([...shelf, blend(recipe)]).mixOf('code-name')
      return result.ok ? result.mix.figures.abvPct : Number.NaN
    }
    const inParts = abv(parts(3, 1))
    expect(abv({ ...parts(45, 15), by: 'volume' })).toBeCloseTo(inParts, 9)
    expect(abv({ ...parts(75, 25), by: 'percentByVolume' })).toBeCloseTo(inParts, 9)
  })

  it('refuses what is none, naming the place', () => {
    const problems = (recipe: Recipe | undefined) =>
      ingredientSchema.safeParse(document(recipe)).error?.issues.map((i) => `${i.path.join('.')}: ${i.message}`)
    expect(problems(undefined)).toEqual(['recipe: a blend is made of something; give it two to six spirits'])
    expect(problems(parts(1))).toEqual(['recipe.components: 1 part is no blend; 2 to 6'])
    expect(problems(parts(1, 1, 1, 1, 1, 1, 1))).toEqual(['recipe.components: 7 parts are no blend; 2 to 6'])
    expect(problems(parts(1, 0))).toEqual(['recipe.components.1.amount: 0 is no part; more than 0'])
    expect(problems(parts(1, -2))?.[0]).toContain('recipe.components.1.amount')
    expect(problems({ ...parts(60, 30), by: 'percentByVolume' })).toEqual([
      'recipe.components: the parts add up to 90 %; together they are 100 %',
    ])
    expect(problems({ ...parts(1, 1), by: 'weight' })?.[0]).toContain('by volume')
    expect(problems({ ...parts(1, 1), reduceToG: 50 })).toEqual(['recipe.reduceToG: a blend is not boiled down'])
    expect(problems(parts(1, 2))).toBeUndefined()
  })

  it('refuses a part without alcohol', () => {
    const soft = blend({
      by: 'partsByVolume',
      components: [
        { ingredient: 'plain-rum', amount: 1 },
        { ingredient: 'soda', amount: 1 },
      ],
    })
    expect(recipeProblems('code-name', [...shelf, soft])).toEqual([
      { path: ['components', 1, 'ingredient'], message: 'soda has no alcohol; a blend is of spirits' },
    ])
  })

  it('costs the same a litre, however large the lot that stands for it', () => {
    const priced = shelf.map((i) => (i.kind === 'spirit' ? { ...i, price: 21, size: 700 } : i))
    const whole = createMixer([...priced, blend(parts(1, 1))]).mixOf('code-name')
    if (!whole.ok) throw new Error('not resolved')
    const made = scaleLiquid(whole.mix.liquid, 7)
    const lot = { made, isBoiled: false, measured: {}, on: '2026-01-01', by: 'Ann' }
    const asMade = createMixer([...priced, blend(parts(1, 1))], {
      lotOf: (s) => (s === 'code-name' ? lot : undefined),
    }).mixOf('code-name')
    if (!asMade.ok) throw new Error('not resolved')
    expect(asMade.mix.cost.value / asMade.mix.volumeMl).toBeCloseTo(whole.mix.cost.value / whole.mix.volumeMl, 9)
    expect(asMade.mix.volumeMl).toBeCloseTo(7 * whole.mix.volumeMl, 6)
  })

  it('has the profile of its parts by volume, unless it was tasted itself', () => {
    const house = { ...testHouse(), ingredients: [...shelf, blend(parts(3, 1))], lots: [] }
    const flight = (id: number, scores: Flight['document']['scores']): Flight => ({
      id,
      on: '2026-01-01',
      by: 'Ann',
      document: { scores },
    })
    const flights = [
      flight(1, [
        { ingredient: 'plain-rum', style: { oak: 2 } },
        { ingredient: 'strong-rum', style: { oak: 6 } },
      ]),
    ]
    expect(resolveHouse({ ...house, flights }, '2026-01-01').profiles?.['code-name']?.oak?.value).toBe(3)
    flights.push(
      flight(2, [
        { ingredient: 'code-name', style: { oak: 9 } },
        { ingredient: 'plain-rum', style: {} },
      ]),
    )
    expect(resolveHouse({ ...house, flights }, '2026-01-01').profiles?.['code-name']?.oak?.value).toBe(9)
  })
})

describe('a sealed mix', () => {
  const inner = ingredientSchema.parse({
    ...document({ by: 'weight', components: [{ ingredient: 'sugar-syrup', amount: 1 }], isEmulsion: true }),
    slug: 'butter-secret',
    name: 'Butter Secret',
    kind: 'houseMix',
  })
  const outer = ingredientSchema.parse({
    ...document({ by: 'weight', components: [{ ingredient: 'butter-secret', amount: 1 }] }),
    kind: 'houseMix',
    isSealed: true,
  })
  it('names nothing of what is in it, to nobody: an edition keeps these words', () => {
    const book = resolveHouse({ ...testHouse(), ingredients: [...shelf, inner, outer], lots: [] }, '2026-01-01')
    expect(book.mixes?.['code-name']?.stirs).toEqual(['Code Name'])
    expect(JSON.stringify(book.mixes?.['code-name'])).not.toContain('Butter')
  })
  it('is only what is made by a recipe', () => {
    const bare = { ...bottle('plain-rum', 40), isSealed: true }
    expect(ingredientSchema.safeParse(bare).error?.issues[0]?.message).toBe(
      'only what is made by a recipe can be sealed',
    )
  })
})

describe('one blended bottle for several lines', () => {
  const line = (ingredient: string, value: number, unit: 'oz' | 'ml' = 'oz'): PourLine => ({
    ingredient,
    amount: { value, unit },
    into: 'tin',
  })

  it('comes back as the lines that it stands for', () => {
    expect(expandBlend(line('code-name', 2), parts(3, 1), DEFAULT_KIT)).toEqual([
      line('plain-rum', 1.5),
      line('strong-rum', 0.5),
    ])
    // A third of two ounces is no jigger’s line.
    expect(expandBlend(line('code-name', 2), parts(1, 1, 1), DEFAULT_KIT)?.[0]?.amount).toEqual({
      value: 0.6667,
      unit: 'oz',
    })
    expect(expandBlend(line('code-name', 50, 'ml'), parts(3, 2), DEFAULT_KIT)?.[1]?.amount).toEqual({
      value: 20,
      unit: 'ml',
    })
  })

  it('replaces only its very parts in its shares, in one place', () => {
    const own = { slug: 'code-name', recipe: parts(3, 1) }
    const pours = [line('plain-rum', 1.5), line('lime-juice', 1), line('strong-rum', 0.5)]
    expect(collapseToBlend(pours, own, DEFAULT_KIT)).toEqual({ line: line('code-name', 2), replaces: [0, 2] })
    expect(collapseToBlend([line('plain-rum', 1), line('strong-rum', 1)], own, DEFAULT_KIT)).toBeUndefined()
    expect(collapseToBlend([line('plain-rum', 1.5)], own, DEFAULT_KIT)).toBeUndefined()
    expect(
      collapseToBlend([line('plain-rum', 1.5), { ...line('strong-rum', 0.5), into: 'float' }], own, DEFAULT_KIT),
    ).toBeUndefined()
  })

  it('there and back is the same spec, for any parts and pour', () => {
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: 1, max: 9 }), { minLength: 2, maxLength: 3 }),
        fc.integer({ min: 1, max: 40 }),
        (amounts, quarters) => {
          const recipe = parts(...amounts)
          const poured = line('code-name', quarters / 4)
          const lines = expandBlend(poured, recipe, DEFAULT_KIT) ?? []
          const back = collapseToBlend(lines, { slug: 'code-name', recipe }, DEFAULT_KIT)
          const ml = (p: PourLine | undefined) =>
            (p?.amount?.value ?? 0) * (p?.amount?.unit === 'oz' ? DEFAULT_KIT.ounceMl : 1)
          expect(ml(back?.line)).toBeCloseTo(ml(poured), 1)
        },
      ),
    )
  })

  it('takes new shares from the split bar in its own measure', () => {
    expect(withVolumes(parts(1, 1), [45, 15], 7.5).components.map((c) => c.amount)).toEqual([3, 1])
    expect(withVolumes(parts(1, 1, 1), [20, 20, 20], 7.5).components.map((c) => c.amount)).toEqual([
      2.667, 2.667, 2.667,
    ])
    const pct = withVolumes({ ...parts(50, 25, 25), by: 'percentByVolume' }, [20, 20, 20], 7.5)
    expect(pct.components.map((c) => c.amount)).toEqual([33.34, 33.33, 33.33])
    const ml = withVolumes({ ...parts(350, 350), by: 'volume' }, [45, 15], 7.5)
    expect(ml.components.map((c) => c.amount)).toEqual([525, 175])
    expect(sharesOf(ml).map((s) => s.share)).toEqual([0.75, 0.25])
  })

  it('makes a new blend of some lines', () => {
    expect(partsFromLines([line('plain-rum', 1.5), line('strong-rum', 15, 'ml')], DEFAULT_KIT)).toEqual({
      by: 'volume',
      components: [
        { ingredient: 'plain-rum', amount: 45 },
        { ingredient: 'strong-rum', amount: 15 },
      ],
    })
    expect(
      partsFromLines(
        [
          line('plain-rum', 1),
          { figures: { abvPct: 1, sugarGPer100Ml: 0, acidGPer100Ml: 0 }, volumeMl: 3, into: 'tin' },
        ],
        DEFAULT_KIT,
      ),
    ).toBeUndefined()
  })
})

describe('letters of a sealed recipe', () => {
  const recipe = (...components: [string, number][]): Recipe => ({
    by: 'weight',
    components: components.map(([ingredient, amount]) => ({ ingredient, amount })),
  })
  const named = (r: Recipe) => Object.fromEntries([...lettersOf(r)].map(([slug, l]) => [slug, l.name]))

  it('go by amount at first, and stay with their bottles when amounts and bottles change', () => {
    const first = withLetters(recipe(['a', 10], ['b', 30], ['c', 20]), undefined)
    expect(named(first)).toEqual({ b: 'A', c: 'B', a: 'C' })
    const second = withLetters(recipe(['a', 90], ['c', 20], ['d', 50]), first)
    expect(named(second)).toEqual({ a: 'C', c: 'B', d: 'D' })
    // Of one that had none written down, those it was known by.
    expect(named(withLetters(recipe(['a', 90], ['b', 30]), recipe(['a', 10], ['b', 30])))).toEqual({ b: 'A', a: 'B' })
  })
})
