import type { SaidFinding } from '@conch/contract'
import { asc, eq, inArray, sql } from 'drizzle-orm'
import type { Database } from '../database/index.ts'
import { findings } from '../database/schema.ts'

const said = ({ savedById: _, ...row }: typeof findings.$inferSelect): SaidFinding => ({
  ...row,
  savedAt: row.savedAt.toISOString(),
})

/** What was found out about a drink's versions, oldest first. */
export async function loadFindings(db: Database, drink: string): Promise<SaidFinding[]> {
  const rows = await db.select().from(findings).where(eq(findings.drink, drink)).orderBy(asc(findings.id))
  return rows.map(said)
}

/**
 * What was found to come from what, and whatever may have withdrawn it, of every drink in which anything was found to come
 * from another: oldest first.
 */
export async function loadFoundLinks(db: Database): Promise<SaidFinding[]> {
  const linked = db
    .selectDistinct({ drink: findings.drink })
    .from(findings)
    .where(sql`${findings.document} ->> 'kind' = 'from'`)
  const rows = await db
    .select()
    .from(findings)
    .where(sql`${inArray(findings.drink, linked)} and ${findings.document} ->> 'kind' in ('from', 'withdrawn')`)
    .orderBy(asc(findings.id))
  return rows.map(said)
}

/** Of the whole house whatever a question can hang on: questions, answers, and what was withdrawn. */
export async function loadQuestions(db: Database): Promise<SaidFinding[]> {
  const rows = await db
    .select()
    .from(findings)
    .where(sql`${findings.document} ->> 'kind' in ('question', 'answer', 'withdrawn')`)
    .orderBy(asc(findings.id))
  return rows.map(said)
}

export async function insertFinding(db: Database, finding: typeof findings.$inferInsert): Promise<number> {
  const [row] = await db.insert(findings).values(finding).returning({ id: findings.id })
  if (!row) throw new Error('bug: a finding was not stored')
  return row.id
}
