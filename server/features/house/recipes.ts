import type { RecipeVersion } from '@conch/contract'
import type { Recipe } from '@conch/core/formula'
import { isSame } from '@conch/core/lineage'
import type { Actor } from '../../access/actor.ts'
import { mayOpen } from '../../access/seal.ts'
import type { Database } from '../../database/index.ts'
import { Refusal } from '../../errors/Refusal.ts'
import { heldHouse } from '../../held/index.ts'
import { findLastRecipe, insertRecipe, loadRecipes } from '../../stores/recipes.ts'

interface RecipeStamp {
  reason: string
  savedBy: string
  savedById?: number | null
  savedAt: Date
}

const withoutLetters = (recipe: Recipe): Recipe => ({
  ...recipe,
  components: recipe.components.map(({ letter: _, ...c }) => c),
})

/** Keeps a recipe as the next version of its mix, unless it is what was kept last. @returns its number, if it was kept */
export async function keepRecipe(
  db: Database,
  ingredient: string,
  recipe: Recipe,
  stamp: RecipeStamp,
): Promise<number | undefined> {
  const last = await findLastRecipe(db, ingredient)
  // Letters are how it is weighed in secret, not what it is made of.
  if (last && isSame(withoutLetters(last.recipe), withoutLetters(recipe))) return undefined
  const number = (last?.number ?? 0) + 1
  await insertRecipe(db, { ingredient, number, recipe, ...stamp })
  return number
}

/** The highest number that a mix's recipes have, 0 for none. */
export const latestRecipeNumber = async (db: Database, ingredient: string): Promise<number> =>
  (await findLastRecipe(db, ingredient))?.number ?? 0

/**
 * What a mix or a blend was made of, newest first.
 * @throws Refusal `notFound`; `notAllowed` for a sealed one
 */
export async function getRecipes(db: Database, slug: string, actor: Actor): Promise<RecipeVersion[]> {
  const ingredient = (await heldHouse(db)).ingredient(slug)
  if (!ingredient) throw new Refusal('notFound', `there is no ingredient “${slug}”`)
  if (ingredient.isSealed && !mayOpen(actor.role))
    throw new Refusal('notAllowed', `${ingredient.name} is sealed; only a manager may open it`)
  return loadRecipes(db, slug)
}
