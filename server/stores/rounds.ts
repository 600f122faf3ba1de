/** Rounds that came to the house, and the ends of those that were put aside. */

import type { RoundDocument, RoundEnd } from '@conch/core/service'
import { and, asc, desc, eq, gte, isNull, sql } from 'drizzle-orm'
import type { Database } from '../database/index.ts'
import { roundEnds, rounds } from '../database/roundSchema.ts'

export interface StoredRound {
  id: number
  document: RoundDocument
  savedBy: string
  savedAt: string
}

const FIELDS = { id: rounds.id, document: rounds.document, savedBy: rounds.savedBy, savedAt: rounds.savedAt }
const plain = (row: Omit<StoredRound, 'savedAt'> & { savedAt: Date }): StoredRound => ({
  ...row,
  savedAt: row.savedAt.toISOString(),
})
/** A tablet shows no more; nobody parks more. */
const MOST_PARKED = 40
const MOST_MADE = 500

/** What somebody finished meanwhile is not put aside any more, whether or not anybody said that they took it up. */
const IS_NOT_MADE = sql`not exists (select 1 from ${rounds} as finished where finished.key = ${rounds.key} and finished.state = 'made')`

/** Put aside and not ended, oldest first; and finished since a moment, newest first. */
export async function loadRounds(db: Database, since: Date): Promise<{ parked: StoredRound[]; made: StoredRound[] }> {
  const parked = await db
    .select(FIELDS)
    .from(rounds)
    .leftJoin(roundEnds, eq(roundEnds.round, rounds.id))
    .where(and(eq(rounds.state, 'parked'), isNull(roundEnds.id), IS_NOT_MADE))
    .orderBy(asc(rounds.id))
    .limit(MOST_PARKED)
  const made = await db
    .select(FIELDS)
    .from(rounds)
    .where(and(eq(rounds.state, 'made'), gte(rounds.savedAt, since)))
    .orderBy(desc(rounds.id))
    .limit(MOST_MADE)
  return { parked: parked.map(plain), made: made.map(plain) }
}

/** @returns the row's number; undefined where this round was finished before */
export async function insertRound(db: Database, row: typeof rounds.$inferInsert): Promise<number | undefined> {
  const [made] = await db.insert(rounds).values(row).onConflictDoNothing().returning({ id: rounds.id })
  return made?.id
}

/** @returns the row's number; undefined where it has ended before */
export async function insertRoundEnd(
  db: Database,
  row: Omit<typeof roundEnds.$inferInsert, 'event'> & { event: RoundEnd },
): Promise<number | undefined> {
  const [made] = await db.insert(roundEnds).values(row).onConflictDoNothing().returning({ id: roundEnds.id })
  return made?.id
}

export async function findRound(
  db: Database,
  id: number,
): Promise<(StoredRound & { end: { why: RoundEnd['why']; by: string } | undefined }) | undefined> {
  const [row] = await db
    .select({ ...FIELDS, event: roundEnds.event, by: roundEnds.by })
    .from(rounds)
    .leftJoin(roundEnds, eq(roundEnds.round, rounds.id))
    .where(eq(rounds.id, id))
  if (!row) return undefined
  const { event, by, ...round } = row
  return { ...plain(round), end: event && by !== null ? { why: event.why, by } : undefined }
}

/** The finished round of a key. */
export async function findMade(db: Database, key: string): Promise<StoredRound | undefined> {
  const [row] = await db
    .select(FIELDS)
    .from(rounds)
    .where(and(eq(rounds.key, key), eq(rounds.state, 'made')))
  return row && plain(row)
}
