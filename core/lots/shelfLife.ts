import type { Ingredient, IngredientKind } from '../house/index.ts'
import type { Recipe } from '../schema/recipe.ts'

/** How long a mix keeps, and what decides it. */
export interface Keeps {
  days: number | undefined
  because: string
  /** The house gave it more days than what is in it. */
  isLengthened: boolean
}

/** Days of what is fresh when the house has not said: opened, pressed or cut. Everything else: no limit of its own. */
const FRESH_DAYS: Partial<Record<IngredientKind, number>> = { juice: 1, puree: 3, dairy: 3 }

/** The days that a bought thing keeps, undefined when nothing limits it. */
export function daysOf(ingredient: Ingredient): number | undefined {
  return ingredient.keepsDays ?? FRESH_DAYS[ingredient.kind]
}

/**
 * The days of a mix: the house's, or fewer by the shortest-lived thing in it. Only the house's own
 * recorded decision lengthens them.
 */
export function keepsOf(recipe: Recipe, parts: readonly { name: string; days: number | undefined }[]): Keeps {
  const limited = parts.filter((p): p is { name: string; days: number } => p.days !== undefined)
  const shortest = limited.sort((a, b) => a.days - b.days)[0]
  const house = recipe.keepsDays
  const byItself =
    shortest && (house === undefined || shortest.days < house)
      ? { days: shortest.days, because: `${shortest.name} keeps ${dayWords(shortest.days)}` }
      : { days: house, because: house === undefined ? 'nobody has said how long it keeps' : 'the house’s days' }
  const decision = recipe.keepsDecision
  if (!decision) return { ...byItself, isLengthened: false }
  return {
    days: decision.days,
    because: `decided by ${decision.by}: ${decision.reason}`,
    isLengthened: byItself.days !== undefined && decision.days > byItself.days,
  }
}

export const dayWords = (days: number) => (days === 1 ? '1 day' : `${days} days`)
