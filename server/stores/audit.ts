import type { AuditEntry, AuditQuery, Doing } from '@conch/contract'
import { and, desc, eq, gte, ilike, lt, or, type SQL, sql } from 'drizzle-orm'
import type { Database } from '../database/index.ts'
import { audit, chainHead, events } from '../database/schema.ts'

/** What is looked for, with nights as moments. */
export type AuditAsked = Omit<AuditQuery, 'from' | 'to'> & { from?: Date | undefined; until?: Date | undefined }

const entryOf = ({
  sequence,
  at,
  personName,
  kind,
  verb,
  subject,
  detail,
}: typeof events.$inferSelect): AuditEntry => ({
  sequence,
  at: at.toISOString(),
  by: personName,
  kind,
  verb,
  subject,
  detail,
})

/** A word as it is: nothing in it stands for anything else. */
const containing = (word: string) => `%${word.replace(/[\\%_]/g, (c) => `\\${c}`)}%`

function conditions({ who, kind, words = '', from, until, before }: AuditAsked): SQL[] {
  return [
    ...(who === undefined ? [] : [eq(events.personId, who)]),
    ...(kind === undefined ? [] : [eq(events.kind, kind)]),
    ...(from ? [gte(events.at, from)] : []),
    ...(until ? [lt(events.at, until)] : []),
    ...(before === undefined ? [] : [lt(events.sequence, before)]),
    ...words
      .split(/\s+/)
      .filter(Boolean)
      .map(
        (word) =>
          or(
            ilike(events.personName, containing(word)),
            ilike(events.subject, containing(word)),
            ilike(sql`${events.detail}::text`, containing(word)),
          ) as SQL,
      ),
  ]
}

/**
 * Entries, the newest first: of the chain, then, where nothing else is asked for, of what was written down before
 * there was one.
 */
export async function loadAudit(db: Database, asked: AuditAsked, most: number): Promise<AuditEntry[]> {
  const chained = await db
    .select()
    .from(events)
    .where(and(...conditions(asked)))
    .orderBy(desc(events.sequence))
    .limit(most)
  const asksForAll = Object.entries(asked).every(([key, value]) => key === 'before' || !value)
  const left = most - chained.length
  const older = asksForAll && left > 0 ? await db.select().from(audit).orderBy(desc(audit.id)).limit(left) : []
  return [
    ...chained.map(entryOf),
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

/** What one person did, the newest first. */
export async function loadDoings(db: Database, personId: number, most: number): Promise<Doing[]> {
  const rows = await db
    .select({ at: events.at, kind: events.kind, verb: events.verb, subject: events.subject })
    .from(events)
    .where(eq(events.personId, personId))
    .orderBy(desc(events.sequence))
    .limit(most)
  return rows.map(({ at, ...doing }) => ({ ...doing, at: at.toISOString() }))
}

/** The end of the chain. */
export async function loadHead(db: Database): Promise<{ sequence: number; hash: string }> {
  const [head] = await db.select({ sequence: chainHead.sequence, hash: chainHead.hash }).from(chainHead)
  return head ?? { sequence: 0, hash: '' }
}
