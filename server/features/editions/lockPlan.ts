/** From a plan to what an edition freezes. Plain: the same in a thread and in a write. */

import type { FieldProblem } from '@conch/contract'
import type { HouseBook } from '@conch/core/house'
import { type EditionLock, type LockResult, lockEdition, type PlannedChapter } from '@conch/core/menu'
import { editionLockSchema } from '@conch/core/menu/schema'
import { formOf } from '@conch/core/schema'
import { Refusal } from '../../errors/Refusal.ts'
import { jobOf } from '../../threads/index.ts'

/** Versions of before go into it as they were: its form is checked, not today's limits. */
const lockForm = formOf(editionLockSchema)

export const documentsOf = (chapters: readonly PlannedChapter[]) =>
  chapters.flatMap((c) => c.drinks.map((d) => d.document))

/** A lock as it is written down: some megabytes of text, of which an object would be ten times as much. */
export interface WrittenLock {
  text: string
  listing: { drink: string; version: number }[]
}

/** @throws Refusal naming every drink that cannot be locked, and where */
export function lockOrRefuse(chapters: PlannedChapter[], book: HouseBook): WrittenLock {
  assertNotEmpty(chapters)
  return lockOf(computeLock({ chapters, book }))
}

/** @throws Refusal for a plan without a drink */
export function assertNotEmpty(chapters: PlannedChapter[]): void {
  if (chapters.every((c) => c.drinks.length === 0))
    throw new Refusal('invalid', 'the plan is empty; put a drink on the menu first')
}

type WrittenResult = { ok: true; lock: WrittenLock } | Extract<LockResult, { ok: false }>

/** @throws Refusal naming every drink that cannot be locked, and where */
export function lockOf(locked: WrittenResult): WrittenLock {
  if (locked.ok) return locked.lock
  const fields: FieldProblem[] = locked.problems.flatMap(({ drink, well, problems }) =>
    problems.map((p) => ({ field: `${drink}.${p.path.join('.')}`, message: `${p.message} (at ${well})` })),
  )
  throw new Refusal('cannotCompute', `${fields[0]?.field}: ${fields[0]?.message}`, { fields })
}

interface ToLock {
  chapters: Parameters<typeof lockEdition>[0]
  book: HouseBook
}

/** The lock with its form checked: what a thread does for whoever publishes. */
export function computeLock({ chapters, book }: ToLock): WrittenResult {
  const locked = lockEdition(chapters, book)
  if (!locked.ok) return locked
  return { ok: true, lock: writeLock(lockForm.parse(locked.lock)) }
}

/** A lock whose form was checked, as it is written down. */
export const writeLock = (lock: EditionLock): WrittenLock => ({
  text: JSON.stringify(lock),
  listing: lock.chapters.flatMap((c) => c.drinks.map(({ drink, version }) => ({ drink, version }))),
})

/** What a thread answered, to be compared with what an edition froze. */
export const readLock = (written: WrittenResult): LockResult =>
  written.ok ? { ok: true, lock: JSON.parse(written.lock.text) as EditionLock } : written

export const LOCK = jobOf<typeof computeLock>('lock')
