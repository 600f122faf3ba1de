import type { Ingredient, IngredientKind } from '../house/index.ts'

/** What a pour does in a drink, from the bottom of a column up. */
export const POUR_PARTS = {
  base: 'base',
  strong: 'liqueur, wine, bitters',
  sweet: 'sweet',
  sour: 'sour',
  long: 'long',
} as const
export type PourPart = keyof typeof POUR_PARTS

const PART_OF: Record<IngredientKind, PourPart> = {
  spirit: 'base',
  blend: 'base',
  liqueur: 'strong',
  wine: 'strong',
  bitters: 'strong',
  syrup: 'sweet',
  houseMix: 'sweet',
  dairy: 'sweet',
  juice: 'sour',
  puree: 'sour',
  soda: 'long',
  produce: 'long',
  dryGood: 'sweet',
  garnish: 'long',
  other: 'long',
}

/** What a pour does, by the kind of what is poured; figures of its own are a base where they have alcohol. */
export function pourPartOf(
  ingredient: Pick<Ingredient, 'kind'> | undefined,
  figures?: { abvPct: number } | undefined,
): PourPart {
  if (ingredient) return PART_OF[ingredient.kind]
  return figures && figures.abvPct > 0 ? 'base' : 'long'
}
