import type { RecipeVersion } from '@conch/contract'
import type { Recipe } from '@conch/core/formula'
import { isSame } from '@conch/core/lineage'
import { asc, desc, eq, max } from 'drizzle-orm'
import type { Actor } from '../../access/actor.ts'
import { mayOpen } from '../../access/seal.ts'
import type { Database } from '../../database/index.ts'
import { recipes } from '../../database/schema.ts'
import { Refusal } from '../../errors/Refusal.ts'
import { heldHouse } from '../../held/index.ts'

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
  const [last] = await db
    .select()
    .from(recipes)
    .where(eq(recipes.ingredient, ingredient))
    .orderBy(desc(recipes.number))
    .limit(1)
  // Letters are how it is weighed in secret, not what it is made of.
  if (last && isSame(withoutLetters(last.recipe), withoutLetters(recipe))) return undefined
  const number = (last?.number ?? 0) + 1
  await db.insert(recipes).values({ ingredient, number, recipe, ...stamp })
  return number
}

/** Stores a recipe under its own number, as a file has it. */
export async function insertRecipe(db: Database, row: typeof recipes.$inferInsert): Promise<void> {
  await db.insert(recipes).values(row)
}

/** Every recipe of every mix, for the house file. */
export async function loadAllRecipes(db: Database) {
  const rows = await db.select().from(recipes).orderBy(asc(recipes.ingredient), asc(recipes.number))
  return rows.map(({ savedById: _, ...r }) => ({ ...r, savedAt: r.savedAt.toISOString() }))
}

/** The highest number that a mix's recipes have, 0 for none. */
export async function latestRecipeNumber(db: Database, ingredient: string): Promise<number> {
  const [row] = await db
    .select({ number: max(recipes.number) })
    .from(recipes)
    .where(eq(recipes.ingredient, ingredient))
  return row?.number ?? 0
}

/**
 * What a mix or a blend was made of, newest first.
 * @throws Refusal `notFound`; `notAllowed` for a sealed one
 */
export async function getRecipes(db: Database, slug: string, actor: Actor): Promise<RecipeVersion[]> {
  const ingredient = (await heldHouse(db)).ingredient(slug)
  if (!ingredient) throw new Refusal('notFound', `there is no ingredient “${slug}”`)
  if (ingredient.isSealed && !mayOpen(actor.role))
    throw new Refusal('notAllowed', `${ingredient.name} is sealed; only a manager may open it`)
  const rows = await db.select().from(recipes).where(eq(recipes.ingredient, slug)).orderBy(desc(recipes.number))
  return rows.map(({ ingredient: _, savedById: __, ...r }) => ({ ...r, savedAt: r.savedAt.toISOString() }))
}
