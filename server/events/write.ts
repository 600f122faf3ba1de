import { randomUUID } from 'node:crypto'
import { sql } from 'drizzle-orm'
import type { Actor } from '../access/actor.ts'
import { beginNotes, type Database, NotReady, type OpenDatabase } from '../database/index.ts'
import { type Appended, appendEvents, type NewEvent } from './chain.ts'

/** One number for all our processes: one write at a time in a house, as in the embedded database. */
const WRITE_LOCK = 46_004_601

/** Until every other write of the house, by whichever process, has ended; then the others wait for this one. */
export async function waitForWrites(tx: Database): Promise<void> {
  await tx.execute(sql`select pg_advisory_xact_lock(${WRITE_LOCK})`)
}

/** What was said before it could be sent. */
export interface Late {
  /** When. */
  at: Date
  /** How far the chain was when whoever said it heard the house last. */
  sees?: number
}

/** What a use case that changes something works with: one transaction, and its word for the chain. */
export interface Write {
  db: Database
  now: () => Date
  /** Says what was done; it stands in the chain when the transaction ends well. */
  record(event: NewEvent): void
  /** Who did it, when that is known only now: the first person of a new house. */
  actAs(actor: Actor): void
  /** Undefined for what is done as it is said. */
  late: Late | undefined
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

/** What every process of the house is told of a write when it has ended well. */
export interface Told {
  /** Whose words these are. */
  process: string
  /** Drafts that are other ones now. */
  drafts: string[]
  /** What a page says of itself, which is in no write: that it has a draft open. */
  here?: unknown
}
export type Heard = Omit<Told, 'process'>

/** Who has the database open; another one for whoever else has. */
const names = new WeakMap<OpenDatabase, string>()
function nameOf(database: OpenDatabase): string {
  const name = names.get(database) ?? randomUUID()
  names.set(database, name)
  return name
}
/** Drafts that are named at most: a notice has so much room. More, and everybody looks at theirs. */
const MOST_DRAFTS = 40
const listeners = new WeakMap<OpenDatabase, Set<(told: Heard) => void>>()

/**
 * From now on told of every write that ended well, of this process and of others of the house.
 * @param onWritten the drafts that it changed; what else it did is in the chain
 * @returns ends it
 */
export function hearWrites(database: OpenDatabase, onWritten: (told: Heard) => void): () => Promise<void> {
  const all = listeners.get(database) ?? new Set()
  listeners.set(database, all.add(onWritten))
  const end = database.hear?.((words) => {
    const told = toldBy(words)
    if (told?.process !== nameOf(database)) onWritten(told ?? { drafts: [] })
  })
  return async () => {
    all.delete(onWritten)
    await end?.()
  }
}

/** Tells the other processes of the house what is in no write. */
export async function tellOthers(database: OpenDatabase, told: Heard): Promise<void> {
  await database.tell?.(database.db, JSON.stringify({ ...told, process: nameOf(database) } satisfies Told))
}

function toldBy(words: string): Told | undefined {
  try {
    return words === '' ? undefined : (JSON.parse(words) as Told)
  } catch {
    return undefined
  }
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
  { actor, now, late }: { actor: Actor; now: () => Date; late?: Late | undefined },
  work: (write: Write) => Promise<T>,
): Promise<T> {
  return inTurn(database, async () => {
    const follower = followers.get(database)
    let afterwards = () => {}
    let drafts: ReadonlySet<string> = new Set()
    let isHeard = false
    const written = await database.db.transaction(async (db) => {
      await waitForWrites(db)
      await follower?.begin(db)
      const recorded: NewEvent[] = []
      drafts = beginNotes(db)
      let who = actor
      const result = await work({
        db,
        now,
        record: (event) => void recorded.push(late ? saidBefore(event, late) : event),
        actAs: (actor) => {
          who = actor
        },
        late,
      })
      const happened = await appendEvents(db, recorded, who, now())
      if (follower) afterwards = await follower.end(db, happened)
      isHeard = happened !== undefined || drafts.size > 0
      const told: Told = { process: nameOf(database), drafts: [...drafts].slice(0, MOST_DRAFTS) }
      if (isHeard) await database.tell?.(db, JSON.stringify(told))
      return result
    })
    afterwards()
    if (isHeard) for (const hear of listeners.get(database) ?? []) hear({ drafts: [...drafts] })
    return written
  })
}

/** The chain says when it came, and when it was said. */
const saidBefore = (event: NewEvent, { at }: Late): NewEvent => ({
  ...event,
  detail: { ...event.detail, saidAt: at.toISOString() },
})
