import type { Ingredient } from '../house/index.ts'

/** Something in a mix, how far down. */
export interface PartOfMix {
  slug: string
  name: string
  /** 1: it is a component itself; 2: a component of a component … */
  level: number
}

/** Everything that goes into a mix, at any depth, nearest first. */
export function partsOf(slug: string, ingredients: readonly Ingredient[]): PartOfMix[] {
  const bySlug = new Map(ingredients.map((i) => [i.slug, i]))
  const found = new Map<string, PartOfMix>()
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
