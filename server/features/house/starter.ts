import { METHODS } from '@conch/core/cold'
import type { Glass, Ingredient, Well } from '@conch/core/house'
import { glassSchema, ingredientSchema, wellSchema } from '@conch/core/house/schema'
import { ASSUMED_FRUIT_ML } from '@conch/core/measure'
import { keysOf } from '@conch/core/schema/keysOf'

/** A well with a station for every method, all on the shipped presets. */
export function starterWell(slug: string, name: string): Well {
  const stations = keysOf(METHODS).map((method) => ({
    slug: method.replace(/[A-Z]/g, (c) => `-${c.toLowerCase()}`),
    name: METHODS[method].label,
    method,
  }))
  return wellSchema.parse({ slug, name, stations })
}

type Row = [
  slug: string,
  name: string,
  kind: Ingredient['kind'],
  abv: number,
  sugar: number,
  acid: number,
  place: Ingredient['storedIn'],
]

/** Generic things with the textbook's figures, all marked as assumed: homework, not knowledge. */
const ROWS: Row[] = [
  ['white-rum', 'White rum', 'spirit', 40, 0, 0, 'shelf'],
  ['aged-rum', 'Aged rum', 'spirit', 43, 0.3, 0, 'shelf'],
  ['gin', 'Gin', 'spirit', 43, 0, 0, 'shelf'],
  ['dry-curacao', 'Dry curaçao', 'liqueur', 40, 22, 0, 'shelf'],
  ['aromatic-bitters', 'Aromatic bitters', 'bitters', 44, 4, 0, 'shelf'],
  ['lime-juice', 'Lime juice', 'juice', 0, 1.5, 6, 'fridge'],
  ['lemon-juice', 'Lemon juice', 'juice', 0, 2.3, 5.7, 'fridge'],
  ['grapefruit-juice', 'Grapefruit juice', 'juice', 0, 8, 2, 'fridge'],
  ['orange-juice', 'Orange juice', 'juice', 0, 9.5, 0.9, 'fridge'],
  ['pineapple-juice', 'Pineapple juice', 'juice', 0, 12, 0.8, 'fridge'],
  ['passion-fruit-puree', 'Passion-fruit purée', 'juice', 0, 11, 3.5, 'fridge'],
  ['sugar-syrup', 'Sugar syrup 1:1 by weight', 'syrup', 0, 61.5, 0, 'fridge'],
  ['rich-syrup', 'Rich syrup 2:1 by weight', 'syrup', 0, 88.5, 0, 'fridge'],
  ['soda', 'Soda', 'soda', 0, 0, 0, 'fridge'],
  ['water', 'Water', 'other', 0, 0, 0, 'shelf'],
  ['white-sugar', 'White sugar', 'dryGood', 0, 100, 0, 'shelf'],
  ['citric-acid', 'Citric acid', 'dryGood', 0, 0, 100, 'shelf'],
  ['malic-acid', 'Malic acid', 'dryGood', 0, 0, 95.5, 'shelf'],
]

/** Juice of one fruit: assumed until the house has pressed its own. */
const FRUIT: Record<string, string> = {
  'lime-juice': 'lime',
  'lemon-juice': 'lemon',
  'grapefruit-juice': 'grapefruit',
  'orange-juice': 'orange',
}

export function starterIngredients(): Ingredient[] {
  const assumed = (value: number) => ({ value, basis: 'assumed' })
  return ROWS.map(([slug, name, kind, abv, sugar, acid, storedIn]) =>
    ingredientSchema.parse({
      slug,
      name,
      kind,
      storedIn,
      figures: { abvPct: assumed(abv), sugarGPer100Ml: assumed(sugar), acidGPer100Ml: assumed(acid) },
      fruit: fruitOf(slug),
    }),
  )
}

function fruitOf(slug: string): Ingredient['fruit'] {
  const name = FRUIT[slug]
  return name === undefined ? undefined : { name, mlPerFruit: ASSUMED_FRUIT_ML[name] ?? 30 }
}

export function starterGlasses(): Glass[] {
  const straight = (heightMm: number, bottomMm: number, brimMm: number) => [
    { heightMm: 0, radiusMm: bottomMm },
    { heightMm, radiusMm: brimMm },
  ]
  return [
    { slug: 'tall', name: 'tall glass', profile: straight(150, 28, 35) },
    { slug: 'double-short', name: 'double short glass', profile: straight(90, 38, 44) },
    {
      slug: 'stemmed',
      name: 'stemmed glass',
      stemMm: 80,
      heatCapacityJPerK: 60,
      storedIn: 'freezer',
      profile: [
        { heightMm: 0, radiusMm: 4 },
        { heightMm: 12, radiusMm: 26 },
        { heightMm: 30, radiusMm: 40 },
        { heightMm: 52, radiusMm: 48 },
      ],
    },
  ].map((glass) => glassSchema.parse(glass))
}
