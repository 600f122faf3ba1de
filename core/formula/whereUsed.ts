import type { DrinkDocument } from '../drink/index.ts'
import type { Ingredient } from '../house/index.ts'
import type { Slot } from '../palate/index.ts'

/** A mix that holds something, how far up. */
export interface UsedInMix {
  slug: string
  name: string
  /** 1: it is a component itself; 2: a component of a component … */
  level: number
}

/** Every mix that holds this, at any depth, nearest first. */
export function mixesWith(slug: string, ingredients: readonly Ingredient[]): UsedInMix[] {
  const found = new Map<string, UsedInMix>()
  let wave = [slug]
  for (let level = 1; wave.length > 0; level++) {
    const next = ingredients.filter(
      (i) => !found.has(i.slug) && i.slug !== slug && i.recipe?.components.some((c) => wave.includes(c.ingredient)),
    )
    for (const { slug: s, name } of next) found.set(s, { slug: s, name, level })
    wave = next.map((i) => i.slug)
  }
  return [...found.values()]
}

/** Everything that goes into a mix, at any depth, nearest first. */
export function partsOf(slug: string, ingredients: readonly Ingredient[]): UsedInMix[] {
  const bySlug = new Map(ingredients.map((i) => [i.slug, i]))
  const found = new Map<string, UsedInMix>()
  let wave = [slug]
  for (let level = 1; wave.length > 0; level++) {
    const next = wave
      .flatMap((s) => bySlug.get(s)?.recipe?.components ?? [])
      .flatMap((c) => bySlug.get(c.ingredient) ?? [])
      .filter((i) => !found.has(i.slug) && i.slug !== slug)
    for (const { slug: s, name } of next) found.set(s, { slug: s, name, level })
    wave = [...new Set(next.map((i) => i.slug))]
  }
  return [...found.values()]
}

/** The drinks that pour any of these, by name or through a slot that it may stand in, with which of them. */
export function drinksWith<D extends { document: DrinkDocument }>(
  slugs: ReadonlySet<string>,
  drinks: readonly D[],
  slots: readonly Slot[] = [],
): { drink: D; through: string[] }[] {
  return drinks.flatMap((drink) => {
    const through = drink.document.pours.flatMap((p) => {
      if (p.ingredient) return slugs.has(p.ingredient) ? [p.ingredient] : []
      const candidates = slots.find((s) => s.slug === p.slot)?.candidates ?? []
      return candidates.map((c) => c.ingredient).filter((c) => slugs.has(c))
    })
    return through.length > 0 ? [{ drink, through: [...new Set(through)] }] : []
  })
}
