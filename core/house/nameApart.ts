import type { Ingredient } from './schema.ts'

/**
 * What tells a thing from others of the same name: its strength, else its style, origin or size, else its slug. Undefined for
 * a name that only one has.
 */
export function apartFrom(
  ingredient: Pick<Ingredient, 'slug' | 'name' | 'figures' | 'style' | 'origin' | 'size'>,
  all: readonly Ingredient[],
): string | undefined {
  const same = (a: string, b: string) => a.trim().toLowerCase() === b.trim().toLowerCase()
  const others = all.filter((o) => o.slug !== ingredient.slug && same(o.name, ingredient.name))
  if (others.length === 0) return undefined
  const pct = (i: Pick<Ingredient, 'figures'>) => `${Number(i.figures.abvPct.value.toFixed(1))} %`
  const ways: ((i: Pick<Ingredient, 'figures' | 'style' | 'origin' | 'size'>) => string | undefined)[] = [
    pct,
    (i) => i.style,
    (i) => i.origin,
    (i) => (i.size === undefined ? undefined : `${i.size} ml`),
  ]
  for (const way of ways) {
    const own = way(ingredient)
    if (own && others.every((o) => way(o) !== own)) return own
  }
  return ingredient.slug
}

/** A name as it is shown among others: "Old Quay (43 %)" where another one is called Old Quay, too. */
export function nameApart(ingredient: Ingredient, all: readonly Ingredient[]): string {
  const apart = apartFrom(ingredient, all)
  return apart === undefined ? ingredient.name : `${ingredient.name} (${apart})`
}
