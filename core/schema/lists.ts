/** What an ingredient is. The order is the order of lists. */
export const INGREDIENT_KINDS = {
  spirit: 'spirit',
  blend: 'blend',
  liqueur: 'liqueur',
  wine: 'wine',
  bitters: 'bitters',
  juice: 'juice',
  puree: 'purée',
  syrup: 'syrup',
  houseMix: 'house mix',
  soda: 'soda',
  dairy: 'dairy',
  produce: 'produce',
  dryGood: 'dry goods',
  garnish: 'garnish',
  other: 'other',
} as const
export type IngredientKind = keyof typeof INGREDIENT_KINDS

/** What is weighed, not poured: its figures are in 100 g. */
export function isWeighed(kind: IngredientKind): boolean {
  return kind === 'produce' || kind === 'dryGood' || kind === 'garnish'
}

export const STOCK_STATES = { stocked: 'stocked', low: 'low', out: 'out', discontinued: 'discontinued' } as const
export type StockState = keyof typeof STOCK_STATES

/** What a house pours first, and why. Ice comes last in all of them, unless a spec says otherwise. */
export const BUILD_ORDERS = {
  cheapestFirst: { label: 'cheapest first', reason: 'a wrong pour then spoils little: what costs most goes in last' },
  citrusFirst: {
    label: 'citrus first',
    reason: 'the sour is what is forgotten: with it in the tin first, it never is',
  },
  spiritFirst: { label: 'spirit first', reason: 'the base is seen in the glass before anything clouds it' },
} as const
export type BuildOrder = keyof typeof BUILD_ORDERS

/** Where a bottle or a glass waits: decides its temperature. */
export const PLACES = { shelf: 'on the shelf', fridge: 'in the fridge', freezer: 'in the freezer' } as const
export type Place = keyof typeof PLACES

export const ALLERGENS = [
  'tree nuts',
  'peanuts',
  'dairy',
  'egg',
  'sulphites',
  'coconut',
  'gluten',
  'sesame',
  'soya',
  'celery',
] as const
export type Allergen = (typeof ALLERGENS)[number]

/** Every panel about safety ends with this. */
export const SAFETY_DEFERRAL = 'Follow your local licensing, food-safety and labelling law and your licensed trainer.'
