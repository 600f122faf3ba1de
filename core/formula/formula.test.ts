import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { type Ingredient, ingredientSchema } from '../house/schema.ts'
import { abvPctOf, liquidFromFigures, massGOf, volumeMlOf } from '../liquid/index.ts'
import { bottle } from '../testing/house.ts'
import {
  adjustAcid,
  batchOf,
  boilDown,
  CITRIC_PER_MALIC,
  cautionsOf,
  createMixer,
  factorFor,
  fortify,
  type LotFigures,
  type Mix,
  type MixerOptions,
  notesOf,
  type Recipe,
} from './index.ts'

const dry = (slug: string, figures: Partial<Record<'sugar' | 'acid' | 'fat' | 'other', number>>, more = {}) => {
  const label = (value = 0) => ({ value, basis: 'label' as const })
  return ingredientSchema.parse({
    slug,
    name: slug.replaceAll('-', ' '),
    kind: 'dryGood',
    figures: {
      abvPct: label(),
      sugarGPer100Ml: label(figures.sugar),
      acidGPer100Ml: label(figures.acid),
      fatGPer100Ml: label(figures.fat),
      otherGPer100Ml: label(figures.other),
    },
    ...more,
  })
}
const mix = (slug: string, recipe: Recipe, more: Partial<Ingredient> = {}) =>
  bottle(slug, 0, 0, 0, { kind: 'houseMix', recipe, ...more })

const SHELF = [
  bottle('water', 0, 0, 0, { kind: 'other' }),
  dry('white-sugar', { sugar: 100 }, { bulkGPerMl: 0.85, size: 1000, price: 1.2 }),
  dry('citric-acid', { acid: 100 }),
  dry('almonds', { fat: 50, other: 45, sugar: 4 }, { allergens: ['tree nuts'] }),
  bottle('lime-juice', 0, 1.5, 6, { kind: 'juice' }),
  bottle('strong-rum', 69, 0, 0, { size: 700, price: 28 }),
  bottle('cream', 0, 3.5, 0.1, { kind: 'dairy', allergens: ['dairy'] }),
]

/** The mix of this slug on the shelf with these mixes; a problem is thrown. */
function made(slug: string, mixes: Ingredient[], options?: MixerOptions): Mix {
  const result = createMixer([...SHELF, ...mixes], options).mixOf(slug)
  if (!result.ok) throw new Error(result.problems.map((p) => p.message).join('; '))
  return result.mix
}
const syrup = (by: Recipe['by'], sugar: number, water: number, more: Partial<Recipe> = {}) =>
  mix('plain-syrup', {
    by,
    components: [
      { ingredient: 'white-sugar', amount: sugar },
      { ingredient: 'water', amount: water },
    ],
    ...more,
  })

describe('a mix', () => {
  it('by weight, 1:1, is a 50 °Bx syrup of the handbook’s density', () => {
    const m = made('plain-syrup', [syrup('weight', 500, 500)])
    expect(m.brix).toBeCloseTo(50, 10)
    expect(m.massG).toBe(1000)
    // Sucrose solutions at 20 °C, 50 °Bx: 1.2296 g/ml.
    expect(m.densityGPerMl / 1.2296).toBeCloseTo(1, 2)
    expect(m.figures.sugarGPer100Ml / 61.48).toBeCloseTo(1, 2)
    expect(m.figures.abvPct).toBe(0)
  })

  it('by volume is thinner than by weight: a cup of sugar is mostly air', () => {
    // 850 g sugar and 998.2 g water.
    expect(made('plain-syrup', [syrup('volume', 1000, 1000)]).brix).toBeCloseTo((100 * 850) / (850 + 998.2), 1)
  })

  it.each(['partsByWeight', 'partsByVolume'] as const)('%s is the same for 2:1 and 4:2', (by) => {
    const two = made('plain-syrup', [syrup(by, 2, 1)])
    const four = made('plain-syrup', [syrup(by, 4, 2)])
    expect(two.brix).toBeCloseTo(four.brix, 10)
    expect(four.massG).toBeCloseTo(2 * two.massG, 8)
  })

  it('keeps the mass of everything: in is strained, evaporated, lost and out', () => {
    const nutSyrup = mix('nut-syrup', {
      by: 'weight',
      components: [
        { ingredient: 'almonds', amount: 300, staysFraction: 0.3 },
        { ingredient: 'water', amount: 600 },
        { ingredient: 'white-sugar', amount: 500 },
      ],
      reduceToG: 1000,
      lossFraction: 0.05,
    })
    const m = made('nut-syrup', [nutSyrup])
    expect(m.massInG).toBe(1400)
    expect(m.strainedG).toBeCloseTo(210, 10)
    expect(m.evaporatedG).toBeCloseTo(190, 10)
    expect(m.lostG).toBeCloseTo(50, 10)
    expect(m.massG).toBeCloseTo(950, 10)
    expect(m.strainedG + m.evaporatedG + m.lostG + m.massG).toBeCloseTo(m.massInG, 9)
    expect(m.allergens).toEqual([{ allergen: 'tree nuts', from: ['almonds'] }])
  })

  it('of mixes is what the flat hand calculation says', () => {
    // 700 g of a 60 °Bx syrup, 200 g water and 100 g acid: 420 g sugar, 100 g acid, 480 g water.
    const m = made('cordial', [
      syrup('weight', 60, 40),
      mix('cordial', {
        by: 'weight',
        components: [
          { ingredient: 'plain-syrup', amount: 700 },
          { ingredient: 'water', amount: 200 },
          { ingredient: 'citric-acid', amount: 100 },
        ],
      }),
    ])
    expect(m.liquid.sugarG).toBeCloseTo(420, 9)
    expect(m.liquid.acidG).toBeCloseTo(100, 9)
    expect(m.liquid.waterG).toBeCloseTo(480, 9)
    expect(m.depth).toBe(2)
  })

  it('goes back into figures that make the same liquid again', () => {
    const m = made('cordial', [
      mix('cordial', {
        by: 'weight',
        components: [
          { ingredient: 'strong-rum', amount: 300 },
          { ingredient: 'white-sugar', amount: 200 },
          { ingredient: 'lime-juice', amount: 300 },
        ],
      }),
    ])
    const again = liquidFromFigures(m.volumeMl, m.figures)
    if (!again.ok) throw new Error(again.reason)
    expect(massGOf(again.liquid)).toBeCloseTo(m.massG, 5)
    expect(again.liquid.ethanolG).toBeCloseTo(m.liquid.ethanolG, 8)
  })

  it('names the loop that it goes round in', () => {
    const a = mix('a', { by: 'weight', components: [{ ingredient: 'b', amount: 1 }] })
    const b = mix('b', { by: 'weight', components: [{ ingredient: 'c', amount: 1 }] })
    const c = mix('c', { by: 'weight', components: [{ ingredient: 'a', amount: 1 }] })
    expect(() => made('a', [a, b, c])).toThrow('goes round in a circle: a → b → c → a')
    expect(() => made('b', [mix('b', { by: 'weight', components: [{ ingredient: 'b', amount: 1 }] })])).toThrow(
      'goes round in a circle: b → b',
    )
  })

  it('asked for after one that runs into its loop, is judged by itself', () => {
    const sound = mix('sound', { by: 'weight', components: [{ ingredient: 'water', amount: 1 }] })
    const looping = mix('looping', {
      by: 'weight',
      components: [
        { ingredient: 'sound', amount: 1 },
        { ingredient: 'looping', amount: 1 },
      ],
    })
    const mixer = createMixer([...SHELF, sound, looping])
    expect(mixer.mixOf('looping').ok).toBe(false)
    expect(mixer.mixOf('sound').ok).toBe(true)
  })

  it('says where a component is missing', () => {
    const m = mix('m', { by: 'weight', components: [{ ingredient: 'moon-dust', amount: 1 }] })
    expect(createMixer([...SHELF, m]).mixOf('m')).toEqual({
      ok: false,
      problems: [{ path: ['components', 0, 'ingredient'], message: 'there is no ingredient “moon-dust”' }],
    })
  })

  it('carries allergens through every level with their way, and drops one only for a recorded reason', () => {
    const nut = mix('nut-milk', { by: 'weight', components: [{ ingredient: 'almonds', amount: 1 }] })
    const recipe: Recipe = {
      by: 'weight',
      components: [
        { ingredient: 'nut-milk', amount: 1 },
        { ingredient: 'cream', amount: 1 },
      ],
    }
    expect(made('top', [nut, mix('top', recipe)]).allergens).toEqual([
      { allergen: 'tree nuts', from: ['nut milk', 'almonds'] },
      { allergen: 'dairy', from: ['cream'] },
    ])
    const without = [{ allergen: 'dairy' as const, reason: 'oat cream since May', by: 'Manager', on: '2026-05-01' }]
    const m = made('top', [nut, mix('top', recipe, { withoutAllergens: without })])
    expect(m.allergens.map((a) => a.allergen)).toEqual(['tree nuts'])
    expect(m.without).toEqual(['dairy'])
  })

  it('costs what is in it, and says whose price it does not know', () => {
    const m = made('rum-syrup', [
      mix('rum-syrup', {
        by: 'weight',
        components: [
          { ingredient: 'white-sugar', amount: 500 },
          { ingredient: 'strong-rum', amount: 89 },
          { ingredient: 'water', amount: 500 },
        ],
      }),
    ])
    // 500 g at 1.20 a kilo; 89 g of 69 % rum are 99.9 ml at 40.00 a litre.
    expect(m.cost.value).toBeCloseTo(0.6 + 4.0, 1)
    expect(m.cost.unknown).toEqual(['water'])
  })

  it('keeps as long as the house says, shorter for what is fresh, longer only by a decision', () => {
    const recipe: Recipe = { by: 'weight', components: [{ ingredient: 'lime-juice', amount: 1 }], keepsDays: 14 }
    expect(made('m', [mix('m', recipe)]).keeps).toEqual({
      days: 1,
      because: 'lime juice keeps 1 day',
      isLengthened: false,
    })
    const decided = { days: 10, reason: 'fortified', by: 'Manager', on: '2026-06-01' }
    expect(made('m', [mix('m', { ...recipe, keepsDecision: decided })]).keeps).toEqual({
      days: 10,
      because: 'decided by Manager: fortified',
      isLengthened: true,
    })
    expect(made('plain-syrup', [syrup('weight', 1, 1, { keepsDays: 21 })]).keeps.days).toBe(21)
    expect(made('plain-syrup', [syrup('weight', 1, 1)]).keeps.days).toBeUndefined()
  })

  it('tells of sugar that will crystallise and fat that will separate', () => {
    const rich = syrup('weight', 67, 33, { keepsDays: 9 })
    expect(notesOf(rich, made('plain-syrup', [rich]))).toEqual([
      'will crystallise: 67.0 g sugar in 100 g of sugar and water; at 20 °C at most 66.7',
    ])
    const cold = { ...syrup('weight', 65, 35, { keepsDays: 9 }), storedIn: 'fridge' as const }
    expect(notesOf(cold, made('plain-syrup', [cold]))[0]).toContain('in the fridge at most 64')
    const fatty = mix('fatty', { by: 'weight', components: [{ ingredient: 'almonds', amount: 1 }], keepsDays: 3 })
    expect(notesOf(fatty, made('fatty', [fatty]))).toEqual([
      'its fat will separate: mark it as an emulsion, so that every spec says to stir it',
    ])
    const marked = { ...fatty, recipe: { ...(fatty.recipe as Recipe), isEmulsion: true } }
    expect(made('fatty', [marked]).stirs).toEqual(['fatty'])
  })
})

describe('what to mind', () => {
  const cautions = (components: Recipe['components'], more: Partial<Ingredient> = {}) =>
    cautionsOf(made('m', [mix('m', { by: 'weight', components }, more)]))
  it('is nuts, cream, what is fresh, acids', () => {
    expect(cautions([{ ingredient: 'almonds', amount: 1 }])).toEqual([
      'raw nut milk spoils fast: keep it cold, date it, discard it in time',
    ])
    expect(cautions([{ ingredient: 'cream', amount: 1 }])).toEqual([
      'butter and cream: keep it cold, date it, discard it in time',
      'fresh in it: cream; keep it cold and date it',
    ])
    const sharp = [
      { ingredient: 'lime-juice', amount: 90 },
      { ingredient: 'citric-acid', amount: 10 },
    ]
    expect(cautions(sharp)).toEqual([
      'fresh in it: lime juice; keep it cold and date it',
      'food-grade acids only, on the fine scale; eye protection for what is concentrated',
    ])
    expect(cautions([{ ingredient: 'water', amount: 1 }])).toEqual([])
  })
  it('is less of what spoils once it is strong', () => {
    const strong = [
      { ingredient: 'lime-juice', amount: 50 },
      { ingredient: 'strong-rum', amount: 50 },
    ]
    expect(cautions(strong)).toEqual([])
  })
})

describe('a lot', () => {
  /** The mixes with a lot of plain syrup, made by these weights and then measured. */
  function withLot(
    mixes: Ingredient[],
    measured: LotFigures['measured'],
    weighedG?: Record<string, number>,
  ): MixerOptions {
    const batch = createMixer([...SHELF, ...mixes]).freshMixOf('plain-syrup', weighedG)
    if (!batch.ok) throw new Error(batch.problems[0]?.message)
    const isBoiled = mixes[0]?.recipe?.reduceToG !== undefined
    const lot: LotFigures = { made: batch.mix.liquid, isBoiled, measured, on: '2026-06-02', by: 'Lead' }
    return { lotOf: (slug) => (slug === 'plain-syrup' ? lot : undefined) }
  }
  const plain = syrup('weight', 500, 500)

  it('is what was really weighed in', () => {
    const m = made('plain-syrup', [plain], withLot([plain], {}, { 'white-sugar': 1100, water: 900 }))
    expect(m.brix).toBeCloseTo(55, 10)
    expect(m.massG).toBe(2000)
  })

  it('measured sweeter than its recipe is that sweet, also in what is made of it', () => {
    const cordial = mix('cordial', { by: 'weight', components: [{ ingredient: 'plain-syrup', amount: 100 }] })
    const m = made('cordial', [plain, cordial], withLot([plain], { brix: 53.5 }))
    expect(m.brix).toBeCloseTo(53.5, 8)
  })

  it('stays what it was when the recipe is changed afterwards', () => {
    const options = withLot([plain], {})
    expect(made('plain-syrup', [syrup('weight', 700, 300)], options).brix).toBeCloseTo(50, 10)
  })

  it('that was boiled further than the recipe has less water, not less sugar', () => {
    const boiled = syrup('weight', 500, 500, { reduceToG: 900 })
    const m = made('plain-syrup', [boiled], withLot([boiled], { massG: 800 }))
    expect(m.liquid.sugarG).toBeCloseTo(500, 9)
    expect(m.brix).toBeCloseTo(62.5, 9)
  })

  it('of another size is boiled down in proportion', () => {
    const boiled = syrup('weight', 500, 500, { reduceToG: 900 })
    const m = made('plain-syrup', [boiled], withLot([boiled], {}, { 'white-sugar': 1000, water: 1000 }))
    expect(m.massG).toBeCloseTo(1800, 9)
  })

  it('that was not boiled and weighs less has lost some of everything', () => {
    const m = made('plain-syrup', [plain], withLot([plain], { massG: 950 }))
    expect(m.brix).toBeCloseTo(50, 9)
    expect(m.massG).toBeCloseTo(950, 9)
  })

  it('titrated and measured for strength has those figures', () => {
    const m = made('plain-syrup', [plain], withLot([plain], { acidGPer100Ml: 1.5, abvPct: 12 }))
    expect(m.figures.acidGPer100Ml).toBeCloseTo(1.5, 8)
    expect(m.figures.abvPct).toBeCloseTo(12, 8)
    expect(m.massG).toBeCloseTo(1000, 8)
  })

  it('with alcohol is not believed when a refractometer reads it', () => {
    const strong = mix('plain-syrup', {
      by: 'weight',
      components: [
        { ingredient: 'strong-rum', amount: 50 },
        { ingredient: 'white-sugar', amount: 50 },
      ],
    })
    expect(made('plain-syrup', [strong], withLot([strong], { brix: 70 })).brix).toBeCloseTo(50, 8)
  })
})

describe('boiling down', () => {
  const beer = { waterG: 950, ethanolG: 50, sugarG: 0, acidG: 0, fatG: 0, otherG: 0 }
  it('drives off alcohol long before water', () => {
    const boiled = boilDown(beer, 900)
    if (!boiled.ok) throw new Error(boiled.reason)
    expect(massGOf(boiled.liquid)).toBeCloseTo(900, 9)
    expect(boiled.liquid.ethanolG).toBeLessThan(25)
    expect(boiled.liquid.ethanolG).toBeGreaterThan(10)
  })
  it('does not go below what cannot boil, or above what is there', () => {
    const sweet = { ...beer, ethanolG: 0, sugarG: 500 }
    expect(boilDown(sweet, 400)).toEqual({
      ok: false,
      reason: 'cannot be boiled down to 400 g: without any water 500 g are left',
    })
    expect(boilDown(sweet, 2000)).toEqual({
      ok: false,
      reason: 'cannot be boiled down to 2000 g: there are only 1450 g',
    })
  })
})

describe('fortifying', () => {
  const rum = liquidFromFigures(1000, { abvPct: 69, sugarGPer100Ml: 0, acidGPer100Ml: 0 })
  const mixed = made('plain-syrup', [syrup('weight', 1, 1)]).liquid
  it('reaches the strength by the tables', () => {
    if (!rum.ok) throw new Error(rum.reason)
    const answer = fortify(mixed, rum.liquid, 18)
    if (!answer.ok) throw new Error(answer.reason)
    expect(abvPctOf(answer.answer.liquid)).toBeCloseTo(18, 6)
    expect(volumeMlOf(answer.answer.liquid)).toBeLessThan(volumeMlOf(mixed) + answer.answer.volumeMl)
  })
  it('says what cannot be reached', () => {
    if (!rum.ok) throw new Error(rum.reason)
    expect(fortify(mixed, rum.liquid, 70)).toMatchObject({ ok: false, reason: expect.stringContaining('69.0 %') })
    expect(fortify(rum.liquid, rum.liquid, 40)).toMatchObject({ ok: false })
  })
})

describe('adjusting acid', () => {
  it('brings orange juice to lime’s acidity, in the finished juice', () => {
    const orange = liquidFromFigures(1000, { abvPct: 0, sugarGPer100Ml: 9.5, acidGPer100Ml: 0.9 })
    if (!orange.ok) throw new Error(orange.reason)
    const adjusted = adjustAcid(orange.liquid, 6, 2)
    if (!adjusted.ok) throw new Error(adjusted.reason)
    const { citricG, malicG, liquid } = adjusted.answer
    expect(citricG / malicG).toBeCloseTo(2, 9)
    expect((100 * liquid.acidG) / volumeMlOf(liquid)).toBeCloseTo(6, 6)
    expect(liquid.acidG).toBeCloseTo(orange.liquid.acidG + citricG + malicG * CITRIC_PER_MALIC, 9)
    // More than the 51 g that are missing in a litre: the powder makes it more than a litre.
    expect(citricG + malicG * CITRIC_PER_MALIC).toBeGreaterThan(51)
  })
  it('does not take acid away', () => {
    const lime = liquidFromFigures(100, { abvPct: 0, sugarGPer100Ml: 1.5, acidGPer100Ml: 6 })
    if (!lime.ok) throw new Error(lime.reason)
    expect(adjustAcid(lime.liquid, 5)).toMatchObject({ ok: false, reason: expect.stringContaining('already') })
  })
})

describe('a batch size', () => {
  const m = made('plain-syrup', [syrup('weight', 500, 500)])
  it('is a yield, a number of drinks, or what is left of one component', () => {
    expect(factorFor(batchOf(m), { to: 'yieldG', massG: 2500 })).toEqual({ ok: true, factor: 2.5 })
    expect(factorFor(batchOf(m), { to: 'drinks', count: 40, pourMl: m.volumeMl / 40 })).toMatchObject({ ok: true })
    expect(factorFor(batchOf(m), { to: 'left', ingredient: 'white-sugar', massG: 125 })).toEqual({
      ok: true,
      factor: 0.25,
    })
    expect(factorFor(batchOf(m), { to: 'left', ingredient: 'lime-juice', massG: 125 })).toMatchObject({ ok: false })
    expect(factorFor(batchOf(m), { to: 'yieldMl', volumeMl: 0 })).toEqual({
      ok: false,
      reason: 'yield must be more than 0',
    })
  })
})

describe('any nest of mixes', () => {
  /** Layers of mixes, each of things below it: amounts, what stays, losses at random. */
  const nests = fc
    .array(
      fc.array(
        fc.record({
          components: fc.array(
            fc.record({
              pick: fc.nat(1000),
              amount: fc.double({ min: 0.5, max: 500, noNaN: true }),
              stays: fc.double({ min: 0.1, max: 1, noNaN: true }),
            }),
            { minLength: 1, maxLength: 4 },
          ),
          loss: fc.double({ min: 0, max: 0.5, noNaN: true }),
          by: fc.constantFrom('weight' as const, 'partsByWeight' as const),
        }),
        { minLength: 1, maxLength: 3 },
      ),
      { minLength: 1, maxLength: 6 },
    )
    .map((layers) => {
      const all: Ingredient[] = []
      layers.forEach((layer, depth) => {
        const below = [...SHELF.map((i) => i.slug), ...all.map((i) => i.slug)]
        layer.forEach((m, n) => {
          const components = new Map(
            m.components.map((c) => [
              below[c.pick % below.length] as string,
              { amount: c.amount, staysFraction: c.stays },
            ]),
          )
          all.push(
            mix(`mix-${depth}-${n}`, {
              by: m.by,
              components: [...components].map(([ingredient, c]) => ({ ingredient, ...c })),
              lossFraction: m.loss,
            }),
          )
        })
      })
      return all
    })

  /** The slow way: follows every gram of every bought thing up through the nest. */
  function flatGrams(slug: string, massG: number, all: Ingredient[], into: Map<string, number>): void {
    const ingredient = all.find((i) => i.slug === slug)
    if (!ingredient?.recipe) {
      into.set(slug, (into.get(slug) ?? 0) + massG)
      return
    }
    const { components } = ingredient.recipe
    const staying = components.map((c) => c.amount * (c.staysFraction ?? 1))
    const sum = staying.reduce((a, b) => a + b, 0)
    components.forEach((c, i) => {
      flatGrams(c.ingredient, (massG * (staying[i] as number)) / sum, all, into)
    })
  }

  it('keeps mass to 1e-9 and is what following every gram by hand gives', () => {
    fc.assert(
      fc.property(nests, (all) => {
        const top = all[all.length - 1] as Ingredient
        const m = made(top.slug, all)
        const out = m.strainedG + m.evaporatedG + m.lostG + m.massG
        expect(Math.abs(out - m.massInG)).toBeLessThan(1e-9 * m.massInG)
        const flat = new Map<string, number>()
        flatGrams(top.slug, m.massG, all, flat)
        const sugarG = (flat.get('white-sugar') ?? 0) + 0.04 * (flat.get('almonds') ?? 0)
        const liquidSugarG = (slug: string, sugarGPer100Ml: number) => {
          const of = SHELF.find((i) => i.slug === slug) as Ingredient
          const l = liquidFromFigures(100, {
            abvPct: 0,
            sugarGPer100Ml,
            acidGPer100Ml: of.figures.acidGPer100Ml.value,
          })
          return l.ok ? ((flat.get(slug) ?? 0) * l.liquid.sugarG) / massGOf(l.liquid) : Number.NaN
        }
        const expected = sugarG + liquidSugarG('lime-juice', 1.5) + liquidSugarG('cream', 3.5)
        expect(Math.abs(m.liquid.sugarG - expected)).toBeLessThan(1e-9 * m.massInG)
        expect(Object.values(m.figures).every((f) => f >= 0 && Number.isFinite(f))).toBe(true)
      }),
      { numRuns: 200 },
    )
  })
})
