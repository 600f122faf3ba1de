import type { Edition, FieldProblem } from '@conch/contract'
import type { HouseBook } from '@conch/core/house'
import { type EditionLock, lockEdition, type PlannedChapter } from '@conch/core/menu'
import { editionLockSchema } from '@conch/core/menu/schema'
import type { Actor } from '../../access/actor.ts'
import { closeLock, mayOpen } from '../../access/seal.ts'
import type { Database } from '../../database/index.ts'
import { Refusal } from '../../http/Refusal.ts'
import type { Services } from '../../http/route.ts'
import { recordAudit } from '../audit/store.ts'
import { getHouse } from '../house/houseUseCases.ts'
import { toBook } from '../house/store.ts'
import { getMenu, loadPlanned } from '../menu/menuUseCases.ts'
import { findEdition, insertEdition, newestEditionNumber } from './store.ts'

/** An edition as one who asks may see it. @throws Refusal `notFound` */
export async function showEdition(db: Database, number: number, actor: Actor): Promise<Edition> {
  const edition = await getEdition(db, number)
  if (mayOpen(actor.role)) return edition
  return { ...edition, lock: closeLock(edition.lock, (await getHouse(db)).ingredients) }
}

/** @throws Refusal `notFound` */
export async function getEdition(db: Database, number: number): Promise<Edition> {
  const edition = await findEdition(db, number)
  if (!edition) throw new Refusal('notFound', `there is no edition ${number}`)
  return edition
}

/**
 * Publishes the planned menu as a new edition, for ever: all of it, or nothing.
 * @throws Refusal `conflict` when the plan is not the one that was looked at
 */
export async function publishEdition(
  request: { name: string; note: string; planRevision: number },
  actor: Actor,
  { database, now }: Services,
): Promise<Edition> {
  return database.db.transaction(async (tx) => {
    const menu = await getMenu(tx)
    if (menu.revision !== request.planRevision) {
      throw new Refusal('conflict', `${menu.savedBy} changed the plan in between; look at it again`, { current: menu })
    }
    const chapters = await loadPlanned(tx, menu.plan)
    const lock = lockOrRefuse(chapters, toBook(await getHouse(tx), now()))
    const number = (await newestEditionNumber(tx)) + 1
    const { name, note } = request
    await storeEdition(tx, { number, name, note, publishedBy: actor.name, publishedAt: now(), lock })
    await recordAudit(tx, {
      at: now(),
      by: actor.name,
      act: 'publishEdition',
      subject: `edition ${number}`,
      detail: { name },
    })
    return showEdition(tx, number, actor)
  })
}

/** Stores an edition whose lock has passed its schema. */
export async function storeEdition(
  db: Database,
  edition: Omit<Parameters<typeof insertEdition>[1], 'listing'>,
): Promise<void> {
  const listing = edition.lock.chapters.flatMap((c) => c.drinks.map(({ drink, version }) => ({ drink, version })))
  await insertEdition(db, { ...edition, listing })
}

/** @throws Refusal naming every drink that cannot be locked, and where */
export function lockOrRefuse(chapters: PlannedChapter[], book: HouseBook): EditionLock {
  if (chapters.every((c) => c.drinks.length === 0))
    throw new Refusal('invalid', 'the plan is empty; put a drink on the menu first')
  const locked = lockEdition(chapters, book)
  if (locked.ok) return editionLockSchema.parse(locked.lock)
  const fields: FieldProblem[] = locked.problems.flatMap(({ drink, well, problems }) =>
    problems.map((p) => ({ field: `${drink}.${p.path.join('.')}`, message: `${p.message} (at ${well})` })),
  )
  throw new Refusal('cannotCompute', `${fields[0]?.field}: ${fields[0]?.message}`, { fields })
}
