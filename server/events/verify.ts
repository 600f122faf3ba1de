/** Whether history is still what it was when it was written. */

import { MODEL_VERSION } from '@conch/core/cold'
import { type LockResult, lockEdition } from '@conch/core/menu'
import { editionLockSchema } from '@conch/core/menu/schema'
import { formOf, upcast } from '@conch/core/schema'
import { eq } from 'drizzle-orm'
import type { Database } from '../database/index.ts'
import { rowsInOrder } from '../database/rowsInOrder.ts'
import { chainHead, editions, events } from '../database/schema.ts'
import { hashBeginning, hashOfEvent, hashOfRow, type StoredEvent } from './chain.ts'
import { HISTORY_TABLES, historyRows, type Key } from './history.ts'

const nameOf = (table: string, key: Key) => `${table} ${JSON.stringify(key)}`

export interface ChainReport {
  events: number
  /** Rows of history that were looked at. */
  rows: number
  /** In words, each with where it is. */
  problems: string[]
}

/**
 * Walks the chain from its first event: the sequence has no gap, each hash holds what stands there, every row of
 * history is named by an event (or was there at the beginning) and holds what it held then.
 */
export async function verifyChain(db: Database): Promise<ChainReport> {
  const problems: string[] = []
  const named = new Map<string, { hash: string; salt: string; sequence: number }>()
  const beginnings: StoredEvent[] = []
  let before = ''
  let expected = 1
  for await (const row of rowsInOrder(db, events, [events.sequence])) {
    const event = row as StoredEvent
    if (event.sequence !== expected) problems.push(`event ${expected} is missing; ${event.sequence} follows instead`)
    expected = event.sequence + 1
    if (hashOfEvent(event, before) !== event.hash)
      problems.push(`event ${event.sequence} does not hold what its hash was made of, or another event stood before it`)
    before = event.hash
    for (const { table, key, hash } of event.kept)
      named.set(nameOf(table, key), { hash, salt: event.salt, sequence: event.sequence })
    if (typeof event.detail.beginning === 'object') beginnings.push(event)
  }
  const [head] = await db.select().from(chainHead).where(eq(chainHead.id, 1))
  if (head && (head.sequence !== expected - 1 || head.hash !== before))
    problems.push(`the chain ends with event ${head.sequence} by its head, and with ${expected - 1} by its events`)

  let rows = 0
  let unnamed = 0
  for (const table of HISTORY_TABLES) {
    for await (const { key, row } of historyRows(db, table)) {
      rows += 1
      const name = nameOf(table, key)
      const event = named.get(name)
      if (!event) unnamed += 1
      else if (hashOfRow(table, row, event.salt) !== event.hash)
        problems.push(`${table} ${key.join(' ')} is not what event ${event.sequence} wrote: it was changed`)
      named.delete(name)
    }
  }
  for (const [name, { sequence }] of named) problems.push(`${name} of event ${sequence} is gone`)
  problems.push(...(await beginningProblems(db, beginnings, unnamed)))
  return { events: expected - 1, rows, problems }
}

/** What no event names must be what was there at the beginning, all of it. */
async function beginningProblems(db: Database, beginnings: StoredEvent[], unnamed: number): Promise<string[]> {
  const [first, second] = beginnings
  if (second) return [`events ${first?.sequence} and ${second.sequence} both begin the chain`]
  if (!first) return unnamed > 0 ? [`${unnamed} rows of history are named by no event`] : []
  const { hash } = first.detail.beginning as { hash: string }
  const keys = new Set<string>()
  for await (const row of rowsInOrder(db, events, [events.sequence]))
    for (const { table, key } of (row as StoredEvent).kept) keys.add(nameOf(table, key))
  const now = await hashBeginning(db, first.salt, (table, key) => keys.has(nameOf(table, key)))
  return now.hash === hash
    ? []
    : [`what was there at the beginning (event ${first.sequence}) was changed, or rows were added that no event names`]
}

export interface EditionReport {
  number: number
  name: string
  /** Recomputed from its lock; or only its hash was checked: it is of another model of the ice. */
  how: 'recomputed' | 'storedOnly'
  /** Drinks whose figures do not follow from the lock, with the well and the first figure. */
  problems: string[]
}

/** Two figures closer than this, relatively, are one: another machine's last digits. */
const SAME = 1e-9

/** Where two results differ first, dotted; undefined where they do not. */
function firstDifference(a: unknown, b: unknown, path = ''): string | undefined {
  if (typeof a === 'number' && typeof b === 'number')
    return Math.abs(a - b) <= SAME * Math.max(1, Math.abs(a), Math.abs(b)) ? undefined : path
  if (typeof a !== 'object' || typeof b !== 'object' || a === null || b === null) return a === b ? undefined : path
  const [left, right] = [a as Record<string, unknown>, b as Record<string, unknown>]
  for (const key of new Set([...Object.keys(left), ...Object.keys(right)])) {
    const found = firstDifference(left[key], right[key], path === '' ? key : `${path}.${key}`)
    if (found !== undefined) return found
  }
  return undefined
}

/** How a lock is computed: here, or in a thread. */
export type LockEdition = (...asked: Parameters<typeof lockEdition>) => LockResult | Promise<LockResult>

/** Computes every edition anew from its own lock, figure by figure. */
export async function* verifyEditions(db: Database, compute: LockEdition = lockEdition): AsyncGenerator<EditionReport> {
  const schema = formOf(editionLockSchema)
  for await (const row of rowsInOrder(db, editions, [editions.number])) {
    const { number, name, lock: stored } = row as typeof editions.$inferSelect
    const read = schema.safeParse(upcast('edition-lock', stored))
    if (!read.success) {
      yield { number, name, how: 'storedOnly', problems: ['its lock cannot be read'] }
      continue
    }
    const lock = read.data
    if (lock.model !== MODEL_VERSION) {
      yield { number, name, how: 'storedOnly', problems: [] }
      continue
    }
    const again = await compute(lock.chapters, lock.book)
    const problems = again.ok
      ? lock.chapters.flatMap((chapter, c) =>
          chapter.drinks.flatMap((drink, d) =>
            Object.entries(drink.byWell).flatMap(([well, { result }]) => {
              const now = again.lock.chapters[c]?.drinks[d]?.byWell[well]?.result
              const where = firstDifference(JSON.parse(JSON.stringify(result)), JSON.parse(JSON.stringify(now ?? null)))
              return where === undefined ? [] : [`${drink.name} at ${well}: ${where || 'everything'}`]
            }),
          ),
        )
      : again.problems.map((p) => `${p.drink} at ${p.well} cannot be computed from it`)
    yield { number, name, how: 'recomputed', problems }
  }
}
