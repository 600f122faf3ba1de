import type { AuditEntry } from '@conch/contract'
import { desc } from 'drizzle-orm'
import type { Database } from '../database/index.ts'
import { audit, events } from '../database/schema.ts'

/** The newest entries first: of the chain, then of what was written down before there was one. */
export async function loadAudit(db: Database, most: number): Promise<AuditEntry[]> {
  const chained = await db.select().from(events).orderBy(desc(events.sequence)).limit(most)
  const older =
    chained.length < most
      ? await db
          .select()
          .from(audit)
          .orderBy(desc(audit.id))
          .limit(most - chained.length)
      : []
  return [
    ...chained.map(({ sequence, at, personName, kind, verb, subject, detail }) => ({
      sequence,
      at: at.toISOString(),
      by: personName,
      kind,
      verb,
      subject,
      detail,
    })),
    ...older.map(({ at, by, act, subject, detail }) => ({
      sequence: null,
      at: at.toISOString(),
      by,
      kind: '',
      verb: act,
      subject,
      detail,
    })),
  ]
}
