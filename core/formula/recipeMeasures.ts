/** How the amounts of a recipe are meant; every recipe says which. */
export const RECIPE_MEASURES = {
  weight: 'by weight, g',
  volume: 'by volume, ml',
  partsByWeight: 'in parts by weight',
  partsByVolume: 'in parts by volume',
} as const
export type RecipeMeasure = keyof typeof RECIPE_MEASURES
