/** A small house for tests: two wells, a few bottles, two glasses. Figures are made up. */

import { METHODS } from '../cold/index.ts'
import { computeDrink, type DrinkResult, type ResolvedDrink } from '../drink/index.ts'
import { type DrinkDocument, type DrinkDocumentInput, drinkDocumentSchema } from '../drink/schema.ts'
import type { HouseBook } from '../house/index.ts'
import { glassSchema, type Ingredient, ingredientSchema, settingsSchema, wellSchema } from '../house/schema.ts'
import { keysOf } from '../schema/keysOf.ts'

const measured = (value: number) => ({ value, basis: 'measured' as const })
const assumed = (value: number) => ({ value, basis: 'assumed' as const })

export function bottle(slug: string, abvPct: number, sugar = 0, acid = 0, more: Partial<Ingredient> = {}): Ingredient {
  return ingredientSchema.parse({
    slug,
    name: slug.replaceAll('-', ' '),
    kind: 'spirit',
    figures: { abvPct: measured(abvPct), sugarGPer100Ml: measured(sugar), acidGPer100Ml: measured(acid) },
    ...more,
  })
}

export function testHouse(): HouseBook {
  return {
    settings: settingsSchema.parse({ name: 'Test Parlour' }),
    wells: [
      wellSchema.parse({
        slug: 'front',
        name: 'Front',
        stations: [
          { slug: 'mixer', name: 'Fast mixer', method: 'flashBlend', parameters: { uaWPerK: 300 }, confirmedModel: 3 },
          { slug: 'tin', name: 'Tin', method: 'hardShake', dilutionUncertaintyFraction: 0.05 },
        ],
      }),
      wellSchema.parse({
        slug: 'yard',
        name: 'Yard',
        roomTemperatureC: 31,
        ice: { crushed: { surfaceWaterFraction: 0.2 } },
      }),
    ],
    ingredients: [
      bottle('plain-rum', 40),
      bottle('strong-rum', 69),
      bottle('lime-juice', 0, 1.5, 6, {
        kind: 'juice',
        storedIn: 'fridge',
        figures: { abvPct: measured(0), sugarGPer100Ml: assumed(1.5), acidGPer100Ml: assumed(6) },
      }),
      bottle('sugar-syrup', 0, 61.5, 0, { kind: 'syrup' }),
      bottle('nut-syrup', 0, 70, 0, { kind: 'syrup', allergens: ['tree nuts'] }),
      bottle('soda', 0, 0, 0, { kind: 'soda', storedIn: 'fridge' }),
    ],
    glasses: [
      glassSchema.parse({
        slug: 'tall',
        name: 'tall glass',
        profile: [
          { heightMm: 0, radiusMm: 28 },
          { heightMm: 150, radiusMm: 36 },
        ],
      }),
      glassSchema.parse({
        slug: 'thimble',
        name: 'thimble',
        profile: [
          { heightMm: 0, radiusMm: 20 },
          { heightMm: 40, radiusMm: 22 },
        ],
      }),
    ],
  }
}

export function testDrink(changes: Partial<DrinkDocumentInput> = {}): DrinkDocument {
  return drinkDocumentSchema.parse({
    name: 'Test Drink',
    pours: [
      { ingredient: 'plain-rum', amount: { value: 2, unit: 'oz', asWritten: '2 oz' } },
      { ingredient: 'lime-juice', amount: { value: 0.75, unit: 'oz' } },
      { ingredient: 'sugar-syrup', amount: { value: 0.5, unit: 'oz' } },
    ],
    stages: [{ method: 'flashBlend', durationS: 4 }],
    glass: 'tall',
    ...changes,
  })
}

/** The figures of a drink that can be computed. */
export function made(drink: ResolvedDrink): DrinkResult {
  const computed = computeDrink(drink)
  if (!computed.ok) throw new Error(JSON.stringify(computed.problems))
  return computed.result
}

/** The house whose gear of every kind works with no more than so much, at every well. */
export function withTinsOf(holdsMl: number, house = testHouse()): HouseBook {
  return {
    ...house,
    wells: house.wells.map((well) => {
      const others = keysOf(METHODS).filter((method) => !well.stations.some((s) => s.method === method))
      const plain = others.map((method) => ({ slug: method.toLowerCase(), name: METHODS[method].label, method }))
      return wellSchema.parse({ ...well, stations: [...well.stations, ...plain].map((s) => ({ ...s, holdsMl })) })
    }),
  }
}
