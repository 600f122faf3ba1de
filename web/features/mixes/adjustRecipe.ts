/** Adding what an adjustment asks for to a recipe, in the recipe's own measure. Plain functions. */

import { amountSize, isByWeight, type Recipe } from '@conch/core/formula'

/** So many g (and ml) of something more; by volume when the recipe is, else by weight. */
export interface Addition {
  ingredient: string
  massG: number
  volumeMl: number
}

/** Why a recipe cannot simply be given more of something, or undefined. */
export function cannotAdd(recipe: Recipe): string | undefined {
  return recipe.reduceToG === undefined
    ? undefined
    : 'it is boiled down: make the boiled syrup one mix, and adjust it in a second'
}

/** The recipe with the additions; what is there already becomes more. Losses are made up for. */
export function withAdditions(recipe: Recipe, additions: readonly Addition[]): Recipe {
  const isByVolume = !isByWeight(recipe.by)
  const size = amountSize(recipe.by)
  const components = [...recipe.components]
  for (const a of additions) {
    const more = (isByVolume ? a.volumeMl : a.massG) / size / (1 - (recipe.lossFraction ?? 0))
    const at = components.findIndex((c) => c.ingredient === a.ingredient)
    const before = components[at]
    // A part is a hundred times a gram: it needs two decimals more for the same fineness.
    const amount = Number(((before?.amount ?? 0) + more).toFixed(size === 1 ? 3 : 5))
    if (before) components[at] = { ...before, amount }
    else components.push({ ingredient: a.ingredient, amount })
  }
  return { ...recipe, components }
}
