/** How well a seal holds: how many fillings of a sealed recipe fit all that others may know of it. */

import type { Ingredient } from '../house/index.ts'
import type { Recipe } from '../schema/recipe.ts'
import { createMixer } from './resolveMix.ts'
import { toOnePerCent } from './sealedAs.ts'
import { lettersOf } from './splitPrep.ts'

/** What somebody outside knows, the amounts themselves among it. */
export interface KnownOfSealed {
  abvPct: number
  sugarGPer100Ml: number
  allergens: readonly string[]
  /** By letter, of what they weighed: shares of the mass. */
  shares: ReadonlyMap<string, number>
}

export interface WaysToFill {
  /** What each component could be, in the recipe's order. */
  ways: string[][]
  /** Whether there are no others: the search did not stop before its end. */
  isWhole: boolean
}

const HALF = 0.5
/** Whoever is further off by volumes alone is not mixed: mixing moves the strength by less. */
const FAR_PCT = 1
const EPSILON = 1e-9

/**
 * Looks for bottles that fit in place of a recipe's, each of the kind of the one that is there.
 * @param shelf everything that could be in it
 * @param order of the bottles that are tried: random numbers from 0 to 1, or the first that fit would be alike
 */
export function waysToFill(
  recipe: Recipe,
  known: KnownOfSealed,
  shelf: readonly Ingredient[],
  { most, mostMixed, uniform }: { most: number; mostMixed: number; uniform: () => number },
): WaysToFill {
  const { components } = recipe
  const letters = lettersOf(recipe)
  const names = components.map((c) => letters.get(c.ingredient)?.name ?? '?')
  const bySlug = new Map(shelf.map((i) => [i.slug, i]))
  const bottles = shelf
    .filter((i) => !i.recipe && !i.closed)
    .map((i) => ({ i, at: uniform() }))
    .sort((a, b) => a.at - b.at)
    .map(({ i }) => i)
  const candidates = components.map((c) => {
    const kind = bySlug.get(c.ingredient)?.kind
    return bottles.filter((b) => b.kind === kind)
  })
  const isByVolume = recipe.by === 'partsByVolume' || recipe.by === 'percentByVolume'
  const total = components.reduce((sum, c) => sum + c.amount, 0)
  const ways: string[][] = []
  let mixed = 0
  let isWhole = true

  const fits = (chosen: readonly Ingredient[]): boolean => {
    if (isByVolume) {
      const abv = components.reduce((sum, c, n) => sum + (c.amount * (chosen[n]?.figures.abvPct.value ?? 0)) / total, 0)
      if (Math.abs(abv - known.abvPct) > FAR_PCT) return false
    }
    if (mixed >= mostMixed) {
      isWhole = false
      return false
    }
    mixed += 1
    const tried = {
      slug: 'tried',
      name: 'tried',
      kind: 'blend',
      figures: chosen[0]?.figures,
      recipe: { ...recipe, components: components.map((c, n) => ({ ...c, ingredient: chosen[n]?.slug ?? '' })) },
      allergens: [],
      formerNames: [],
      storedIn: 'shelf',
    } as unknown as Ingredient
    const made = createMixer([...chosen, tried]).freshMixOf('tried')
    if (!made.ok) return false
    const { figures, parts, massG, allergens } = made.mix
    const isNear = (value: number, shown: number) => Math.abs(value - shown) <= HALF + EPSILON
    return (
      isNear(figures.abvPct, known.abvPct) &&
      isNear(figures.sugarGPer100Ml, known.sugarGPer100Ml) &&
      allergens
        .map((a) => a.allergen)
        .sort()
        .join() === [...known.allergens].sort().join() &&
      parts.every((p, n) => {
        const share = known.shares.get(names[n] ?? '')
        return share === undefined || toOnePerCent(p.massG / massG) === share
      })
    )
  }
  const choose = (chosen: Ingredient[]): boolean => {
    if (ways.length >= most || !isWhole) {
      isWhole = false
      return false
    }
    if (chosen.length === components.length) {
      if (fits(chosen)) ways.push(chosen.map((i) => i.slug))
      return true
    }
    for (const b of candidates[chosen.length] ?? []) if (!chosen.includes(b) && !choose([...chosen, b])) return false
    return true
  }
  choose([])
  return { ways, isWhole }
}
