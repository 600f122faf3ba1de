import type { Edition, EditionSummary } from '@conch/contract'
import type { Actor } from '../../access/actor.ts'
import { closeLock, mayOpen } from '../../access/seal.ts'
import type { Database } from '../../database/index.ts'
import { Refusal } from '../../errors/Refusal.ts'
import { latestSequence, type Write } from '../../events/index.ts'
import { bookFor, heldHouse } from '../../held/index.ts'
import {
  findEdition,
  findEditionOfPlan,
  findSummary,
  insertEdition,
  newestEditionNumber,
} from '../../stores/editions.ts'
import { passPlan } from '../../stores/menu.ts'
import { getMenu, loadPlanned } from '../menu/index.ts'
import type { ComputedLock } from './lockAhead.ts'
import { documentsOf, lockOrRefuse, type WrittenLock } from './lockPlan.ts'

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

async function computeLock(db: Database, at: Date): Promise<WrittenLock> {
  const chapters = await loadPlanned(db, (await getMenu(db)).plan)
  return lockOrRefuse(chapters, bookFor(await heldHouse(db), documentsOf(chapters), at))
}

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
  await insertEdition(tx, { number, name, note, ...by, planRevision, lock })
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
