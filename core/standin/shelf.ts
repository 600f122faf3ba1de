import {
  bySlug,
  type HouseBook,
  type Ingredient,
  type IngredientKind,
  pricePerThousand,
  valuesOf,
} from '../house/index.ts'
/** From the house to the search: what is missing, and what may stand in for it. */

import { liquidFromFigures, scaleLiquid } from '../liquid/index.ts'
import { colourDepthOf, placesOf, type Slot } from '../palate/index.ts'
import type { StandInBottle, StandInTarget } from './distance.ts'

/** What a stand-in is looked for: a bottle or a blend of the house, or a slot. */
export type Missing = { ingredient: Ingredient } | { slot: Slot }

/** Kinds that stand in for one another. A house mix may be a liqueur. */
const FAMILIES: readonly (readonly IngredientKind[])[] = [['spirit', 'blend'], ['liqueur'], ['wine']]

const familyOf = (kind: IngredientKind): readonly IngredientKind[] => FAMILIES.find((f) => f.includes(kind)) ?? [kind]

/** Sugar above which a thing is chosen for it, g in 100 ml. */
const SWEET_G_PER_100ML = 5

/** Whether sugar and acid are what it is chosen by: a liqueur, a wine, anything sweet. */
export function isSweetened(missing: Missing): boolean {
  if ('slot' in missing) return false
  const { kind, figures } = missing.ingredient
  return kind === 'liqueur' || kind === 'wine' || figures.sugarGPer100Ml.value >= SWEET_G_PER_100ML
}

/** What is wanted in the glass in place of something. A slot says its own; the house pick's sugar, colour and price go with it. */
export function targetOf(missing: Missing, book: HouseBook): StandInTarget {
  const ingredient = 'slot' in missing ? bySlug(book.ingredients, missing.slot.pick) : missing.ingredient
  const figures = ingredient?.figures
  const abvPct = figures?.abvPct.value ?? 40
  const depth = ingredient && depthIn(ingredient, book)
  return {
    style: 'slot' in missing ? missing.slot.target : placesOf(book.profiles?.[missing.ingredient.slug] ?? {}),
    abvPct: 'slot' in missing ? missing.slot.abvPct : { low: abvPct, high: abvPct },
    sugarGPer100Ml: figures?.sugarGPer100Ml.value ?? 0,
    acidGPer100Ml: figures?.acidGPer100Ml.value ?? 0,
    depth,
    pricePerLitre: ingredient && pricePerThousand(ingredient),
  }
}

/** A blend is as deep as its parts together, unless somebody wrote its colour. */
export function depthIn(ingredient: Ingredient, book: Pick<HouseBook, 'ingredients'>): number | undefined {
  const own = colourDepthOf(ingredient.colour)
  if (own !== undefined || !ingredient.recipe) return own
  const parts = ingredient.recipe.components.map((c) => {
    const part = bySlug(book.ingredients, c.ingredient)
    return { depth: part && colourDepthOf(part.colour), amount: c.amount }
  })
  const amount = parts.reduce((sum, p) => sum + p.amount, 0)
  if (parts.some((p) => p.depth === undefined) || !(amount > 0)) return undefined
  return parts.reduce((sum, p) => sum + ((p.depth ?? 0) * p.amount) / amount, 0)
}

/**
 * The bottles of the same family that are in stock, without the missing one and the refused ones. A
 * mixture of a mixture is none: blends themselves are left out.
 * @param without slugs that are not wanted
 */
export function standInBottles(
  missing: Missing,
  book: HouseBook,
  without: ReadonlySet<string> = new Set(),
): StandInBottle[] {
  const kind =
    'slot' in missing ? (bySlug(book.ingredients, missing.slot.pick)?.kind ?? 'spirit') : missing.ingredient.kind
  const family = familyOf(kind)
  const own = 'slot' in missing ? undefined : missing.ingredient.slug
  return book.ingredients.flatMap((i) => {
    const isThere = i.stock !== 'out' && i.stock !== 'discontinued'
    if (!family.includes(i.kind) || i.kind === 'blend' || i.recipe || !isThere || i.slug === own || without.has(i.slug))
      return []
    const made = liquidFromFigures(100, valuesOf(i))
    if (!made.ok) return []
    return [
      {
        slug: i.slug,
        name: i.name,
        style: placesOf(book.profiles?.[i.slug] ?? {}),
        perMl: scaleLiquid(made.liquid, 1 / 100),
        depth: colourDepthOf(i.colour),
        pricePerLitre: pricePerThousand(i),
      },
    ]
  })
}

/** Bottles that a slot with this bottle among its candidates refuses: they are the look-alikes. */
export function refusedFor(missing: Missing, slots: readonly Slot[]): { slug: string; reason: string; slot: string }[] {
  const of =
    'slot' in missing
      ? [missing.slot]
      : slots.filter((s) => s.candidates.some((c) => c.ingredient === missing.ingredient.slug))
  return of.flatMap((s) => s.refused.map((r) => ({ slug: r.ingredient, reason: r.reason, slot: s.name })))
}
