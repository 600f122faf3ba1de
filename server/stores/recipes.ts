import type { RecipeVersion } from '@conch/contract'
import { desc, eq } from 'drizzle-orm'
import type { Database } from '../database/index.ts'
import { recipes } from '../database/schema.ts'

/** The last recipe of a mix. */
export async function findLastRecipe(db: Database, ingredient: string) {
  const [last] = await db
    .select()
    .from(recipes)
    .where(eq(recipes.ingredient, ingredient))
    .orderBy(desc(recipes.number))
    .limit(1)
  return last
}

/** What a mix was made of, newest first. */
export async function loadRecipes(db: Database, slug: string): Promise<RecipeVersion[]> {
  const rows = await db.select().from(recipes).where(eq(recipes.ingredient, slug)).orderBy(desc(recipes.number))
  return rows.map(({ ingredient: _, savedById: __, ...r }) => ({ ...r, savedAt: r.savedAt.toISOString() }))
}

/** Stores a recipe under its own number. */
export async function insertRecipe(db: Database, row: typeof recipes.$inferInsert): Promise<void> {
  await db.insert(recipes).values(row)
}
