import type { Decision } from '@conch/contract'
import { asc, desc, eq } from 'drizzle-orm'
import type { Database } from '../database/index.ts'
import { decisions } from '../database/schema.ts'

const decided = ({ savedById: _, ...row }: typeof decisions.$inferSelect): Decision => ({
  ...row,
  savedAt: row.savedAt.toISOString(),
})

/** Everything that was decided about a drink, oldest first. */
export async function loadDecisions(db: Database, drink: string): Promise<Decision[]> {
  const rows = await db.select().from(decisions).where(eq(decisions.drink, drink)).orderBy(asc(decisions.id))
  return rows.map(decided)
}

/** The newest decision about every drink about which there is one. */
export async function loadNewestDecisions(db: Database): Promise<Decision[]> {
  const rows = await db
    .selectDistinctOn([decisions.drink])
    .from(decisions)
    .orderBy(asc(decisions.drink), desc(decisions.id))
  return rows.map(decided)
}

export async function insertDecision(db: Database, decision: typeof decisions.$inferInsert): Promise<number> {
  const [row] = await db.insert(decisions).values(decision).returning({ id: decisions.id })
  if (!row) throw new Error('bug: a decision was not stored')
  return row.id
}
