import type { Ingredient } from './schema.ts'

/** As names are compared: two that differ only in capitals are one to whoever reads them. */
export const plainName = (name: string): string => name.trim().toLowerCase()

/** By name; kept with the list: names are asked for row by row. */
const namesakes = new WeakMap<readonly Ingredient[], Map<string, Ingredient[]>>()
function namesakesIn(all: readonly Ingredient[]): Map<string, Ingredient[]> {
  let byName = namesakes.get(all)
  if (!byName) {
    byName = new Map()
    for (const i of all) {
      const same = byName.get(plainName(i.name))
      if (same) same.push(i)
      else byName.set(plainName(i.name), [i])
    }
    namesakes.set(all, byName)
  }
  return byName
}

/**
 * What tells a thing from others of the same name: its strength, else its style, origin or size, else its slug. Undefined for
 * a name that only one has.
 */
export function apartFrom(
  ingredient: Pick<Ingredient, 'slug' | 'name' | 'figures' | 'style' | 'origin' | 'size'>,
  all: readonly Ingredient[],
): string | undefined {
  const others = (namesakesIn(all).get(plainName(ingredient.name)) ?? []).filter((o) => o.slug !== ingredient.slug)
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

/** The name under which a slug is shown among these; itself where it is none of them. */
export function nameIn(all: readonly Ingredient[], slug: string): string {
  const ingredient = all.find((i) => i.slug === slug)
  return ingredient ? nameApart(ingredient, all) : slug
}
