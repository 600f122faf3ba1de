/**
 * Keeps what is held in step with the chain. Whoever asks gets the house as of the last write that was acknowledged;
 * inside a write, as of the write before it.
 */

import { type Database, NotReady, type OpenDatabase } from '../database/index.ts'
import { followWrites } from '../events/index.ts'
import { HeldHouse } from './heldHouse.ts'
import { readChanges, readDrafts, readEvents, readHead, readWhole } from './readHeld.ts'

export interface Held {
  /** The house as it is now. @throws NotReady while the database is closing */
  now(): Promise<HeldHouse>
  /** What is there was written by somebody who does not go through our writes: it is read anew. */
  forget(): void
}

/** By the handle that a use case asks through: the database itself, or a write that is under way. */
const byHandle = new WeakMap<Database, HeldHouse>()

/**
 * The house through a handle: what is held where somebody keeps it in step, else read anew.
 * @param db of a request that began with `now()`, or of a write
 */
export async function heldHouse(db: Database): Promise<HeldHouse> {
  return byHandle.get(db) ?? readHouse(db)
}

/** The house as it is in the database, what this write itself has done so far too. */
export const readHouse = async (db: Database): Promise<HeldHouse> => new HeldHouse(await readWhole(db))

export function createHeld(database: OpenDatabase): Held {
  let held: HeldHouse | undefined
  /** Whose house it is: another database may be put in its place. */
  let handle: Database | undefined
  /** How often all was forgotten: what is being read meanwhile may be from before, and is not kept. */
  let timesForgotten = 0
  function forget(): void {
    held = undefined
    timesForgotten++
  }

  /** Up to now, through a handle that may be inside a write. */
  async function catchUp(db: Database): Promise<HeldHouse> {
    const before = held
    if (before) {
      const head = await readHead(db)
      const happened =
        head.sequence === before.at.sequence && head.hash === before.at.hash
          ? { at: before.at, events: [] }
          : await readEvents(db, before.at)
      if (happened && happened.events.length === 0) {
        before.drafts = await readDrafts(db, before.drafts)
        return before
      }
      if (happened) {
        const changes = await readChanges(db, before, happened)
        if (held === before) {
          before.apply(changes)
          return before
        }
      }
    }
    const forgotten = timesForgotten
    const read = await readHouse(db)
    if (forgotten === timesForgotten) held = read
    return read
  }

  let underWay: Promise<HeldHouse> | undefined
  let next: Promise<HeldHouse> | undefined
  /** Those who come while one looks share the next look: the one under way may have begun before what they know of. */
  function look(db: Database): Promise<HeldHouse> {
    if (!underWay) {
      underWay = catchUp(db).finally(() => {
        underWay = undefined
      })
      return underWay
    }
    next ??= underWay
      .catch(() => {})
      .then(() => {
        next = undefined
        return look(db)
      })
    return next
  }

  followWrites(database, {
    async begin(tx) {
      byHandle.set(tx, await inTurnWith(tx))
    },
    async end(tx, happened) {
      const now = byHandle.get(tx)
      if (!now) return () => {}
      if (!happened) {
        const drafts = await readDrafts(tx, now.drafts)
        return () => {
          now.drafts = drafts
        }
      }
      const isAllNew = happened.events.some((e) => e.kind === 'house')
      const after = isAllNew ? await readEvents(tx, now.at) : happened
      const changes = after && (await readChanges(tx, now, after))
      const whole = changes ? undefined : await readHouse(tx)
      return () => {
        if (whole) held = whole
        else if (changes && held === now) now.apply(changes)
        if (held && handle) byHandle.set(handle, held)
      }
    },
  })

  /** A write of the embedded database is the only one who asks it: what it holds is what is there. */
  async function inTurnWith(tx: Database): Promise<HeldHouse> {
    // While it closes nobody puts another one in its place.
    const isMine = database.kind === 'pglite' && (!database.isTaking || handle === database.db)
    return isMine && held ? held : catchUp(tx)
  }

  return {
    async now() {
      const { db } = database
      for (;;) {
        if (database.kind === 'pglite' && held && handle === db) return held
        if (handle !== db) {
          forget()
          handle = db
        }
        const found = await look(db)
        if (handle === db) {
          byHandle.set(db, found)
          return found
        }
        if (database.db !== db) throw new NotReady('another house was put in place; ask again')
        // What was read was to be forgotten meanwhile: it is read anew, and nobody is sent away for that.
      }
    },
    forget() {
      forget()
      handle = undefined
    },
  }
}
