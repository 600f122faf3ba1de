/** The lock of the plan, computed before somebody publishes it: then publishing compares, and writes. */

import { clockOf, nightOf } from '@conch/core/calendar'
import type { Actor } from '../../access/actor.ts'
import type { OpenDatabase } from '../../database/index.ts'
import { baseOf, bookFor, heldHouse } from '../../held/index.ts'
import type { Services } from '../../http/route.ts'
import { getMenu, loadPlanned } from '../menu/index.ts'
import { assertNotEmpty, documentsOf, LOCK, lockOf, type WrittenLock } from './lockPlan.ts'

/** How far the chain was when a lock was computed. */
export interface ComputedLock {
  sequence: number
  lock: WrittenLock
}

interface Ahead {
  houseId: string
  sequence: number
  /** On which night, and when: what is good until a day is judged by it. */
  night: string
  at: Date
  lock: Promise<ComputedLock>
}

/** Juices age by the hour: older than that it is computed again. */
const GOOD_FOR_MS = 120_000

const ahead = new WeakMap<OpenDatabase, Ahead>()

/**
 * What publishing would freeze now: computed in a thread, once for whoever asks before something happens.
 * @throws Refusal naming every drink that cannot be locked, and where
 */
export async function computeAhead(
  actor: Actor,
  { database, now, work, held: holder }: Services,
): Promise<ComputedLock> {
  const held = await holder.now()
  const { sequence } = held.at
  const at = now()
  const night = nightOf(at, clockOf(baseOf(held).settings))
  const last = ahead.get(database)
  const isGood = last && last.houseId === held.id && last.sequence === sequence && last.night === night
  if (isGood && Math.abs(at.getTime() - last.at.getTime()) < GOOD_FOR_MS) return last.lock
  const compute = async (): Promise<ComputedLock> => {
    const { db } = database
    const chapters = await loadPlanned(db, (await getMenu(db)).plan)
    assertNotEmpty(chapters)
    const book = bookFor(await heldHouse(db), documentsOf(chapters), at)
    return { sequence, lock: lockOf(await work.run(actor.name, LOCK, { chapters, book })) }
  }
  const lock = compute()
  const mine = { houseId: held.id, sequence, night, at, lock }
  ahead.set(database, mine)
  const forget = () => {
    if (ahead.get(database) === mine) ahead.delete(database)
  }
  // What failed is tried again; what is old only takes up room.
  lock.catch(forget)
  setTimeout(forget, GOOD_FOR_MS).unref()
  return lock
}
