/** The chain of events: each hash holds what the event says, its salt, and the hash before. */

import type { EventKind, EventVerb, KeptRow } from '@conch/contract'
import { and, asc, desc, eq, gt, lte } from 'drizzle-orm'
import type { Actor } from '../access/actor.ts'
import type { Database } from '../database/index.ts'
import { chainHead, events } from '../database/schema.ts'
import { hashOf, newSalt } from './hash.ts'
import { findHistoryRow, HISTORY_TABLES, historyRows, type Key, type Row, rowToHash } from './history.ts'

/** What a use case says that it did. */
export interface NewEvent {
  kind: EventKind
  subject: string
  verb: EventVerb
  /** What it was and is, and what else there is to know. */
  detail?: Record<string, unknown>
  /** The rows of history that it wrote: their table, then their key. */
  kept?: [table: string, ...key: Key][]
  /** The chain begins with it: it holds one hash over all history that is there already. */
  isBeginning?: boolean
}

/** Of one thing in one evening there are few. */
const MOST_SINCE = 100

export type StoredEvent = typeof events.$inferSelect

/** The end of the chain after a write, and what was added. */
export interface Appended {
  at: { sequence: number; hash: string }
  events: { sequence: number; kind: EventKind; subject: string }[]
}

/** Everything of an event that its hash holds. */
export const hashOfEvent = ({ hash: _, ...event }: Omit<StoredEvent, 'hash'> & { hash?: string }, before: string) =>
  hashOf({ ...event, at: event.at.toISOString() }, before)

/** What a row of history holds, hashed with the salt of its event. */
export const hashOfRow = (table: string, row: Row, salt: string): string =>
  hashOf({ table, row: rowToHash(table, row) }, salt)

/**
 * Puts events at the end of the chain. Last in a transaction: the head stays locked until it ends, so that
 * the sequence has no gaps and what is visible is visible in its order.
 */
export async function appendEvents(
  db: Database,
  added: readonly NewEvent[],
  actor: Actor,
  at: Date,
): Promise<Appended | undefined> {
  if (added.length === 0) return undefined
  const [head] = await db.select().from(chainHead).where(eq(chainHead.id, 1)).for('update')
  if (!head) throw new Error('bug: the chain has no head')
  let { sequence, hash } = head
  const appended: Appended['events'] = []
  for (const { kind, subject, verb, detail: said = {}, kept = [], isBeginning } of added) {
    const salt = newSalt()
    const detail = isBeginning ? { ...said, beginning: await hashBeginning(db, salt) } : said
    const rows: KeptRow[] = []
    for (const [table, ...key] of kept) {
      const row = await findHistoryRow(db, table, key)
      if (!row) throw new Error(`bug: the row of “${table}” that an event names is not there`)
      rows.push({ table, key, hash: hashOfRow(table, row, salt) })
    }
    sequence += 1
    const event = {
      sequence,
      at,
      personId: actor.id ?? null,
      personName: actor.name,
      kind,
      subject,
      verb,
      // As it will be read again: what is undefined is not stored.
      detail: JSON.parse(JSON.stringify(detail)) as Record<string, unknown>,
      kept: rows,
      salt,
    }
    hash = hashOfEvent(event, hash)
    await db.insert(events).values({ ...event, hash })
    appended.push({ sequence, kind, subject })
  }
  await db.update(chainHead).set({ sequence, hash }).where(eq(chainHead.id, 1))
  return { at: { sequence, hash }, events: appended }
}

/**
 * One hash over every row of history that no event names: the beginning, for a house that is older than
 * its chain or came in without one.
 */
export async function hashBeginning(
  db: Database,
  salt: string,
  isNamed: (table: string, key: Key) => boolean = () => false,
): Promise<{ rows: Record<string, number>; hash: string }> {
  let hash = ''
  const rows: Record<string, number> = {}
  for (const table of HISTORY_TABLES) {
    for await (const { key, row } of historyRows(db, table)) {
      if (isNamed(table, key)) continue
      rows[table] = (rows[table] ?? 0) + 1
      hash = hashOf({ before: hash, row: hashOfRow(table, row, salt) })
    }
  }
  return { rows, hash }
}

/** The sequence of the last event: the same number means that nothing happened. */
export async function latestSequence(db: Database): Promise<number> {
  const [head] = await db.select({ sequence: chainHead.sequence }).from(chainHead)
  return head?.sequence ?? 0
}

/** Whether something of this kind ever happened to a subject. */
export async function hasHappened(db: Database, kind: EventKind, subject: string): Promise<boolean> {
  const [row] = await db
    .select({ sequence: events.sequence })
    .from(events)
    .where(and(eq(events.kind, kind), eq(events.subject, subject)))
    .limit(1)
  return row !== undefined
}

/** What happened behind one place in the chain, in order. @param upTo another place, counted in; left out: to the end */
export async function eventsBehind(
  db: Database,
  after: number,
  upTo?: number,
): Promise<{ sequence: number; kind: EventKind; subject: string }[]> {
  return db
    .select({ sequence: events.sequence, kind: events.kind, subject: events.subject })
    .from(events)
    .where(and(gt(events.sequence, after), upTo === undefined ? undefined : lte(events.sequence, upTo)))
    .orderBy(asc(events.sequence))
}

/** What happened to a subject behind a place in the chain, newest first. */
export async function happenedSince(
  db: Database,
  { kind, subject, after }: { kind: EventKind; subject: string; after: number },
): Promise<StoredEvent[]> {
  return db
    .select()
    .from(events)
    .where(and(eq(events.kind, kind), eq(events.subject, subject), gt(events.sequence, after)))
    .orderBy(desc(events.sequence))
    .limit(MOST_SINCE)
}
