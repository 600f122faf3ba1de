/** How the amounts of a recipe are meant; every recipe says which. */
export const RECIPE_MEASURES = {
  weight: 'by weight, g',
  volume: 'by volume, ml',
  partsByWeight: 'in parts by weight',
  partsByVolume: 'in parts by volume',
  percentByVolume: 'in per cent by volume',
} as const
export type RecipeMeasure = keyof typeof RECIPE_MEASURES

/** What one part is taken as when a recipe is in parts, g or ml. */
export const PART_SIZE = 100

/** What the number 1 in a recipe stands for, g or ml: a part is a hundred; a per cent is one, of 100 ml. */
export function amountSize(by: RecipeMeasure): number {
  return by === 'partsByWeight' || by === 'partsByVolume' ? PART_SIZE : 1
}

/** Whether amounts are weights; else they are volumes. */
export const isByWeight = (by: RecipeMeasure): boolean => by === 'weight' || by === 'partsByWeight'
