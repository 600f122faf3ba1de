import { type KnownOfSealed, type Recipe, waysToFill } from '@conch/core/formula'
import type { Ingredient } from '@conch/core/house'
import { seededRandom } from '@conch/core/solve'
import { jobOf } from '../../threads/index.ts'

/** So many ways of filling it and nobody can tell which it is. */
export const ENOUGH_WAYS = 50
/** Some seconds of looking: a seal that has not given way by then holds. */
const MOST_MIXED = 30_000

/** How many fillings fit all that others may know: up to enough. */
export function countWays({
  recipe,
  known,
  shelf,
}: {
  recipe: Recipe
  known: Omit<KnownOfSealed, 'shares'>
  shelf: readonly Ingredient[]
}): { ways: number; isWhole: boolean } {
  const { uniform } = seededRandom(1)
  const options = { most: ENOUGH_WAYS, mostMixed: MOST_MIXED, uniform }
  const { ways, isWhole } = waysToFill(recipe, { ...known, shares: new Map() }, shelf, options)
  return { ways: ways.length, isWhole }
}

export const WAYS = jobOf<typeof countWays>('waysToFill')
