import type { AuditEntry } from '@conch/contract'
import { desc } from 'drizzle-orm'
import type { Database } from '../../database/index.ts'
import { audit } from '../../database/schema.ts'

export async function recordAudit(db: Database, entry: typeof audit.$inferInsert): Promise<void> {
  await db.insert(audit).values(entry)
}

/** The newest entries first. */
export async function loadAudit(db: Database, most: number): Promise<AuditEntry[]> {
  const rows = await db.select().from(audit).orderBy(desc(audit.id)).limit(most)
  return rows.map((r) => ({ ...r, at: r.at.toISOString() }))
}
