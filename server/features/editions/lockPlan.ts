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

/** @throws Refusal naming every drink that cannot be locked, and where */
export function lockOrRefuse(chapters: PlannedChapter[], book: HouseBook): EditionLock {
  assertNotEmpty(chapters)
  return lockOf(lockEdition(chapters, book))
}

/** @throws Refusal for a plan without a drink */
export function assertNotEmpty(chapters: PlannedChapter[]): void {
  if (chapters.every((c) => c.drinks.length === 0))
    throw new Refusal('invalid', 'the plan is empty; put a drink on the menu first')
}

/** @throws Refusal naming every drink that cannot be locked, and where */
export function lockOf(locked: LockResult, isToCheck = true): EditionLock {
  if (locked.ok) return isToCheck ? lockForm.parse(locked.lock) : locked.lock
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
export function computeLock({ chapters, book }: ToLock): LockResult {
  const locked = lockEdition(chapters, book)
  return locked.ok ? { ok: true, lock: lockForm.parse(locked.lock) } : locked
}

export const LOCK = jobOf<typeof computeLock>('lock')
