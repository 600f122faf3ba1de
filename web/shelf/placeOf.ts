import type { Ingredient } from '@conch/core/house'

/** Where a thing of the house has its page. */
export function placeOf({ slug, kind, recipe, closed }: Ingredient): string {
  if (kind === 'blend') return `/blends/${slug}`
  return recipe || closed ? `/mixes/${slug}` : `/back-bar?open=${slug}`
}

/** The same for a slug; a mix's page for what is not on the shelf. */
export function placeOfSlug(slug: string, shelf: readonly Ingredient[]): string {
  const ingredient = shelf.find((i) => i.slug === slug)
  return ingredient ? placeOf(ingredient) : `/mixes/${slug}`
}
