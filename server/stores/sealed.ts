import type { SplitPrepDocument } from '@conch/core/formula'
import { desc, eq, sql } from 'drizzle-orm'
import type { Database } from '../database/index.ts'
import { ingredients, splitPreps } from '../database/schema.ts'

export interface StoredSplitPrep {
  id: number
  ingredient: string
  name: string
  document: SplitPrepDocument
  savedBy: string
  savedAt: string
}

const NAME = sql<string>`${ingredients.document} ->> 'name'`

/** The newest first; of one thing when it is named. */
export async function loadSplitPreps(db: Database, most: number, ingredient?: string): Promise<StoredSplitPrep[]> {
  const rows = await db
    .select({
      id: splitPreps.id,
      ingredient: splitPreps.ingredient,
      name: NAME,
      document: splitPreps.document,
      savedBy: splitPreps.savedBy,
      savedAt: splitPreps.savedAt,
    })
    .from(splitPreps)
    .innerJoin(ingredients, eq(splitPreps.ingredient, ingredients.slug))
    .where(ingredient === undefined ? undefined : eq(splitPreps.ingredient, ingredient))
    .orderBy(desc(splitPreps.id))
    .limit(most)
  return rows.map((r) => ({ ...r, savedAt: r.savedAt.toISOString() }))
}

export async function insertSplitPrep(db: Database, row: typeof splitPreps.$inferInsert): Promise<number> {
  const [made] = await db.insert(splitPreps).values(row).returning({ id: splitPreps.id })
  if (!made) throw new Error('bug: a split batch was not stored')
  return made.id
}
