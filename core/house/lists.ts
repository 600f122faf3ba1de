/** What an ingredient is. The order is the order of lists. */
export const INGREDIENT_KINDS = {
  spirit: 'spirit',
  liqueur: 'liqueur',
  wine: 'wine',
  bitters: 'bitters',
  juice: 'juice',
  syrup: 'syrup',
  houseMix: 'house mix',
  soda: 'soda',
  dairy: 'dairy',
  other: 'other',
} as const
export type IngredientKind = keyof typeof INGREDIENT_KINDS

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
