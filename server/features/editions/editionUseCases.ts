import type { Edition, EditionSummary, FieldProblem } from '@conch/contract'
import type { HouseBook } from '@conch/core/house'
import { type EditionLock, type LockResult, lockEdition, type PlannedChapter } from '@conch/core/menu'
import { editionLockSchema } from '@conch/core/menu/schema'
import { formOf } from '@conch/core/schema'
import type { Actor } from '../../access/actor.ts'
import { closeLock, mayOpen } from '../../access/seal.ts'
import type { Database } from '../../database/index.ts'
import { Refusal } from '../../errors/Refusal.ts'
import { latestSequence, type Write } from '../../events/index.ts'
import { bookFor, heldHouse } from '../../held/index.ts'
import type { Services } from '../../http/route.ts'
import { getMenu, loadPlanned } from '../menu/menuUseCases.ts'
import { passPlan } from '../menu/store.ts'
import { findEdition, findEditionOfPlan, findSummary, insertEdition, newestEditionNumber } from './store.ts'

/** Versions of before go into it as they were: its form is checked, not today's limits. */
const lockForm = formOf(editionLockSchema)

/** An edition as one who asks may see it. @throws Refusal `notFound` */
export async function showEdition(db: Database, number: number, actor: Actor): Promise<Edition> {
  const edition = await getEdition(db, number)
  if (mayOpen(actor.role)) return edition
  const held = await heldHouse(db)
  return { ...edition, lock: closeLock(edition.lock, (slug) => held.ingredient(slug)) }
}

/** @throws Refusal `notFound` */
export async function getEdition(db: Database, number: number): Promise<Edition> {
  const edition = await findEdition(db, number)
  if (!edition) throw new Refusal('notFound', `there is no edition ${number}`)
  return edition
}

/** The lock of the plan, and how far the chain was when it was computed. */
export interface ComputedLock {
  sequence: number
  lock: EditionLock
}

/** What publishing would freeze, computed in a thread: a large menu takes seconds, and nobody waits for them. */
export async function prepareLock(actor: Actor, { database: { db }, now, work }: Services): Promise<ComputedLock> {
  const sequence = await latestSequence(db)
  const chapters = await loadPlanned(db, (await getMenu(db)).plan)
  const book = bookFor(await heldHouse(db), documentsOf(chapters), now())
  assertNotEmpty(chapters)
  // Its form was checked where it was computed.
  return { sequence, lock: lockOf(await work.run(actor.name, 'lock', { chapters, book }), false) }
}

async function computeLock(db: Database, at: Date): Promise<EditionLock> {
  const chapters = await loadPlanned(db, (await getMenu(db)).plan)
  return lockOrRefuse(chapters, bookFor(await heldHouse(db), documentsOf(chapters), at))
}

const documentsOf = (chapters: readonly PlannedChapter[]) => chapters.flatMap((c) => c.drinks.map((d) => d.document))

/**
 * Publishes the planned menu as a new edition, for ever: all of it, or nothing.
 * @throws Refusal `conflict` when the plan is not the one that was looked at
 */
export async function publishEdition(
  request: { name: string; note: string; planRevision: number },
  prepared: ComputedLock,
  actor: Actor,
  { db: tx, now, record }: Write,
): Promise<EditionSummary> {
  const menu = await getMenu(tx)
  const { name, note, planRevision } = request
  const published = await findEditionOfPlan(tx, planRevision)
  if (published) {
    // The same tap twice makes one edition; another person is told of it.
    const isSameTap =
      published.name === name && published.note === note && published.publishedById === (actor.id ?? null)
    if (isSameTap) return getSummary(tx, published.number)
    throw new Refusal(
      'conflict',
      `${published.publishedBy} has published this plan already, as “${published.name}”; look at it, and plan on from there`,
      { current: menu },
    )
  }
  if (menu.revision !== planRevision || !(await passPlan(tx, planRevision))) {
    throw new Refusal('conflict', `${menu.savedBy} changed the plan in between; look at it again`, { current: menu })
  }
  // Nothing happened since it was computed: it is what would come out now.
  const lock = prepared.sequence === (await latestSequence(tx)) ? prepared.lock : await computeLock(tx, now())
  const number = (await newestEditionNumber(tx)) + 1
  const by = { publishedBy: actor.name, publishedById: actor.id ?? null, publishedAt: now() }
  await storeEdition(tx, { number, name, note, ...by, planRevision, lock })
  record({
    kind: 'edition',
    subject: String(number),
    verb: 'published',
    detail: { name },
    kept: [['editions', number]],
  })
  return getSummary(tx, number)
}

async function getSummary(db: Database, number: number): Promise<EditionSummary> {
  const summary = await findSummary(db, number)
  if (!summary) throw new Error('bug: an edition is gone')
  return summary
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
  assertNotEmpty(chapters)
  return lockOf(lockEdition(chapters, book))
}

/** @throws Refusal for a plan without a drink */
function assertNotEmpty(chapters: PlannedChapter[]): void {
  if (chapters.every((c) => c.drinks.length === 0))
    throw new Refusal('invalid', 'the plan is empty; put a drink on the menu first')
}

function lockOf(locked: LockResult, isToCheck = true): EditionLock {
  if (locked.ok) return isToCheck ? lockForm.parse(locked.lock) : locked.lock
  const fields: FieldProblem[] = locked.problems.flatMap(({ drink, well, problems }) =>
    problems.map((p) => ({ field: `${drink}.${p.path.join('.')}`, message: `${p.message} (at ${well})` })),
  )
  throw new Refusal('cannotCompute', `${fields[0]?.field}: ${fields[0]?.message}`, { fields })
}
