/** What people practised, one sitting a row. */

import type { PracticeDocument } from '@conch/core/learn'
import { desc, eq } from 'drizzle-orm'
import type { Database } from '../database/index.ts'
import { practices } from '../database/roundSchema.ts'

export interface StoredPractice {
  id: number
  document: PracticeDocument
  savedAt: string
}

/** Several years of every day. */
const MOST = 2_000

/** What one person practised, the oldest first; of more than {@link MOST} sittings the newest. */
export async function loadPractices(db: Database, personId: number): Promise<StoredPractice[]> {
  const rows = await db
    .select({ id: practices.id, document: practices.document, savedAt: practices.savedAt })
    .from(practices)
    .where(eq(practices.savedById, personId))
    .orderBy(desc(practices.id))
    .limit(MOST)
  return rows.reverse().map((r) => ({ ...r, savedAt: r.savedAt.toISOString() }))
}

export async function insertPractice(db: Database, row: typeof practices.$inferInsert): Promise<number> {
  const [made] = await db.insert(practices).values(row).returning({ id: practices.id })
  if (!made) throw new Error('bug: what was practised was not stored')
  return made.id
}
