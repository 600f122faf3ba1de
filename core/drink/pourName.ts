import { bySlug, type HouseBook, nameApart } from '../house/index.ts'
import type { DrinkDocument } from './schema.ts'

/** What a pour is called: its slot, its bottle by a name that tells it from its like, or figures of its own. */
export function pourName(
  pour: Pick<DrinkDocument['pours'][number], 'slot' | 'ingredient' | 'figures'> | undefined,
  { slots = [], ingredients }: Pick<HouseBook, 'slots' | 'ingredients'>,
): string {
  const ingredient = bySlug(ingredients, pour?.ingredient)
  return (
    bySlug(slots, pour?.slot)?.name ??
    (ingredient && nameApart(ingredient, ingredients)) ??
    pour?.figures?.name ??
    pour?.ingredient ??
    pour?.slot ??
    'own figures'
  )
}
