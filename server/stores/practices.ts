/** What people practised, one sitting a row. */

import type { PracticeDocument } from '@conch/core/learn'
import { and, asc, eq, gte, isNotNull } from 'drizzle-orm'
import type { Database } from '../database/index.ts'
import { practices } from '../database/roundSchema.ts'

export interface StoredPractice {
  id: number
  document: PracticeDocument
  personId: number
  savedAt: string
}

const MOST = 5_000

/** Of one person, or of everybody since a moment; the oldest first. */
export async function loadPractices(
  db: Database,
  of: { personId: number } | { since: Date },
): Promise<StoredPractice[]> {
  const whose = 'personId' in of ? eq(practices.savedById, of.personId) : gte(practices.savedAt, of.since)
  const rows = await db
    .select({
      id: practices.id,
      document: practices.document,
      personId: practices.savedById,
      savedAt: practices.savedAt,
    })
    .from(practices)
    .where(and(whose, isNotNull(practices.savedById)))
    .orderBy(asc(practices.id))
    .limit(MOST)
  return rows.map((r) => ({ ...r, personId: r.personId as number, savedAt: r.savedAt.toISOString() }))
}

export async function insertPractice(db: Database, row: typeof practices.$inferInsert): Promise<number> {
  const [made] = await db.insert(practices).values(row).returning({ id: practices.id })
  if (!made) throw new Error('bug: what was practised was not stored')
  return made.id
}
