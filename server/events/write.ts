import { sql } from 'drizzle-orm'
import type { Actor } from '../access/actor.ts'
import { type Database, NotReady, type OpenDatabase } from '../database/index.ts'
import { type Appended, appendEvents, type NewEvent } from './chain.ts'

/** One number for all our processes: one write at a time in a house, as in the embedded database. */
const WRITE_LOCK = 46_004_601

/** Until every other write of the house, by whichever process, has ended; then the others wait for this one. */
export async function waitForWrites(tx: Database): Promise<void> {
  await tx.execute(sql`select pg_advisory_xact_lock(${WRITE_LOCK})`)
}

/** What a use case that changes something works with: one transaction, and its word for the chain. */
export interface Write {
  db: Database
  now: () => Date
  /** Says what was done; it stands in the chain when the transaction ends well. */
  record(event: NewEvent): void
  /** Who did it, when that is known only now: the first person of a new house. */
  actAs(actor: Actor): void
}

/** Whoever keeps something in step with what is written. Both are asked inside the transaction. */
export interface Follower {
  begin(db: Database): Promise<void>
  /**
   * @param happened undefined when the write says nothing to the chain
   * @returns what to do once it has ended well
   */
  end(db: Database, happened: Appended | undefined): Promise<() => void>
}

const followers = new WeakMap<OpenDatabase, Follower>()

/** From now on every write of a database is followed; by one follower. */
export function followWrites(database: OpenDatabase, follower: Follower): void {
  followers.set(database, follower)
}

/** The last write of each database that was let in; the next one waits for it. */
const turns = new WeakMap<OpenDatabase, Promise<unknown>>()

/** @throws NotReady for whoever's turn comes when the house has begun to close */
async function inTurn<T>(database: OpenDatabase, work: () => Promise<T>): Promise<T> {
  const before = turns.get(database) ?? Promise.resolve()
  const mine = before.then(() => {
    if (!database.isTaking) throw new NotReady('the house is closing; nothing was saved')
    return work()
  })
  turns.set(
    database,
    mine.catch(() => {}),
  )
  return mine
}

/**
 * Runs a write: all of it or nothing, its events last. Writes of one house wait for each other, so that
 * what one has checked is still so when it is saved. That is cheap (a bar has few hands) and holds for every rule,
 * those of tomorrow too.
 */
export async function inWrite<T>(
  database: OpenDatabase,
  { actor, now }: { actor: Actor; now: () => Date },
  work: (write: Write) => Promise<T>,
): Promise<T> {
  return inTurn(database, async () => {
    const follower = followers.get(database)
    let afterwards = () => {}
    const written = await database.db.transaction(async (db) => {
      await waitForWrites(db)
      await follower?.begin(db)
      const recorded: NewEvent[] = []
      let who = actor
      const result = await work({
        db,
        now,
        record: (event) => void recorded.push(event),
        actAs: (actor) => {
          who = actor
        },
      })
      const happened = await appendEvents(db, recorded, who, now())
      if (follower) afterwards = await follower.end(db, happened)
      return result
    })
    afterwards()
    return written
  })
}
