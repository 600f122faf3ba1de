/** What others may know of a sealed mix: rounded once, when a manager saves it. */

import { type Ingredient, isAcidPowder, type SealedAs } from '../house/index.ts'
import { createMixer } from './resolveMix.ts'
import { lettersOf } from './splitPrep.ts'

/** What stands on the shelf and what is in it, in the shelf's order. */
export interface OnShelf {
  slug: string
  position: number
  allergens: Ingredient['allergens']
}

/** Whole per cent, whole grams; acids, of which little does much, in tenths. */
const DIGITS = { abvPct: 0, sugarGPer100Ml: 0, acidGPer100Ml: 1, fatGPer100Ml: 0, otherGPer100Ml: 0 } as const
const rounded = (value: number, digits: number) => Number(value.toFixed(digits))

/** Steps of one per cent of itself: the same whatever the size of a batch, so that many sizes tell no more than one. */
const STEP = Math.log(1.01)
export const toOnePerCent = (share: number): number =>
  share > 0 ? Number(Math.exp(Math.round(Math.log(share) / STEP) * STEP).toPrecision(6)) : 0

/**
 * @param ingredients the sealed mix as it is saved, and everything that it is made of
 * @returns undefined for what cannot be computed
 */
export function sealedAsOf(
  ingredient: Ingredient,
  ingredients: readonly Ingredient[],
  shelf: readonly OnShelf[],
): SealedAs | undefined {
  const { recipe } = ingredient
  const result = recipe && createMixer(ingredients).freshMixOf(ingredient.slug)
  if (!recipe || !result?.ok) return undefined
  const { mix } = result
  const letters = lettersOf(recipe)
  const figures = Object.fromEntries(
    Object.entries(DIGITS).map(([key, digits]) => [key, rounded(mix.figures[key as keyof typeof DIGITS], digits)]),
  ) as SealedAs['figures']
  return {
    figures,
    allergens: mix.allergens.map((a) => a.allergen).sort(),
    volumeMl: Number(mix.volumeMl.toPrecision(2)),
    mustStir: mix.stirs.length > 0,
    isAcidAdjusted: mix.parts.some((p) => isAcidPowder(p.ingredient)) && mix.figures.acidGPer100Ml > 1,
    keepsDays: mix.keeps.days ?? null,
    shares: Object.fromEntries(
      mix.parts
        .map((p): [string, number] => [
          letters.get(p.ingredient.slug)?.name ?? '?',
          toOnePerCent(mix.massG > 0 ? p.massG / mix.massG : 0),
        ])
        .sort(([a], [b]) => (a < b ? -1 : 1)),
    ),
    shelf: {
      upTo: Math.max(0, ...shelf.map((s) => s.position)),
      allergens: Object.fromEntries(
        shelf.flatMap(({ slug, allergens }) => (allergens.length > 0 ? [[slug, [...allergens].sort()]] : [])),
      ),
    },
  }
}

/**
 * Whether an allergen of anything that stood on the shelf then is another one now. Of anything: asked of its parts
 * alone, it would tell what they are.
 */
export function isAllergenUnsure({ shelf: then }: SealedAs, now: readonly OnShelf[]): boolean {
  const before = new Map(Object.entries(then.allergens))
  for (const { slug, position, allergens } of now) {
    const was = before.get(slug) ?? []
    before.delete(slug)
    if (position <= then.upTo && [...allergens].sort().join() !== was.join()) return true
  }
  // Something that had one is gone.
  return before.size > 0
}
