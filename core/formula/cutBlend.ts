/** Parts of a blend put in, left out and written otherwise, as one does at the bar: by a pour of it, in steps. */

import type { Recipe } from '../schema/recipe.ts'
import type { RecipeMeasure } from '../schema/recipeMeasures.ts'
import { sharesOf, withVolumes } from './blendLines.ts'

/** How a blend is looked at: as a pour of it, cut in steps, ml each. */
export interface BlendCut {
  pourMl: number
  stepMl: number
}

/** A bottle of a blend that is written down by volume, ml. */
const BOTTLE_ML = 700

const volumesOf = (recipe: Recipe, { pourMl }: BlendCut) => sharesOf(recipe).map((s) => s.share * pourMl)

/**
 * With another part. What was typed stays as it was typed; only where shares come to a hundred does the newcomer take a
 * step from the largest, or half of it.
 */
export function withPart(recipe: Recipe, ingredient: string, cut: BlendCut): Recipe {
  const { components } = recipe
  if (recipe.by !== 'percentByVolume') {
    const amount = recipe.by === 'volume' ? Math.min(...components.map((c) => c.amount)) : 1
    return { ...recipe, components: [...components, { ingredient, amount }] }
  }
  const volumes = volumesOf(recipe, cut)
  const largest = volumes.indexOf(Math.max(...volumes))
  const next = volumes.map((v, i) => (i === largest ? Math.max(v / 2, v - cut.stepMl) : v))
  const given = cut.pourMl - next.reduce((sum, v) => sum + v, 0)
  const longer = { ...recipe, components: [...components, { ingredient, amount: 1 }] }
  return withVolumes(longer, [...next, given], cut.stepMl)
}

/** Without a part; where shares come to a hundred the others share what it had. */
export function withoutPart(recipe: Recipe, index: number, cut: BlendCut): Recipe {
  const shorter = { ...recipe, components: recipe.components.filter((_, i) => i !== index) }
  if (recipe.by !== 'percentByVolume') return shorter
  const left = volumesOf(recipe, cut).filter((_, i) => i !== index)
  const all = left.reduce((sum, v) => sum + v, 0)
  const volumes = left.map((v) => (v * cut.pourMl) / all)
  return withVolumes(shorter, volumes, cut.stepMl)
}

/** The same blend, written in another measure; by volume: as a bottle of it. */
export function writtenBy(recipe: Recipe, by: RecipeMeasure, cut: BlendCut): Recipe {
  // By volume the sum stays what it is; in the other measures it says nothing.
  const amount = BOTTLE_ML / recipe.components.length
  const asked = { ...recipe, by, components: recipe.components.map((c) => ({ ...c, amount })) }
  return withVolumes(asked, volumesOf(recipe, cut), cut.stepMl)
}
