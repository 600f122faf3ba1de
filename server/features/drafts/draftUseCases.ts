import type { Draft, DraftDocuments, DraftKind } from '@conch/contract'
import { isSame } from '@conch/core/lineage'
import { type Actor, stampOf } from '../../access/actor.ts'
import { mayOpen } from '../../access/seal.ts'
import type { Database } from '../../database/index.ts'
import { invalid, Refusal } from '../../errors/Refusal.ts'
import type { Write } from '../../events/index.ts'
import { heldHouse } from '../../held/index.ts'
import * as store from '../../stores/drafts.ts'
import { findDrink, findVersion } from '../../stores/drinks.ts'

const NAMES: Record<DraftKind, string> = { drink: 'drink', ingredient: 'mix', slot: 'slot' }

/** What is saved in between is told with what stands there now, for whoever has to choose. */
function refuseStale(current: Draft<object> | undefined): never {
  const detail = current
    ? `${current.savedBy} saved this draft in between; compare the two before you go on`
    : 'the draft this was made on is gone: it was saved or dropped'
  throw new Refusal('conflict', detail, { current: current ?? null })
}

/** @throws Refusal `notFound` for a draft of nothing, `notAllowed` for one of something sealed */
async function assertSubject(db: Database, kind: DraftKind, subject: string, actor: Actor): Promise<void> {
  if (kind === 'slot') return // One that is only being thought of has a draft, too.
  if (kind === 'drink') {
    if (!(await findDrink(db, subject))) throw new Refusal('notFound', `there is no drink “${subject}”`)
    return
  }
  const ingredient = (await heldHouse(db)).ingredient(subject)
  if (!ingredient) throw new Refusal('notFound', `there is no ingredient “${subject}”`)
  if (ingredient.isSealed && !mayOpen(actor.role))
    throw new Refusal('notAllowed', `${ingredient.name} is sealed; only a manager may open it`)
}

/** The draft as it stands; null where there is none. */
export async function getDraft<K extends DraftKind>(
  db: Database,
  kind: K,
  subject: string,
  actor: Actor,
): Promise<Draft<DraftDocuments[K]> | null> {
  await assertSubject(db, kind, subject, actor)
  return (await store.findDraft(db, kind, subject)) ?? null
}

/**
 * Saves a draft on the revision it was made from. What somebody else had written there is kept.
 * @throws Refusal `conflict` with the draft that stands there now
 */
export async function saveDraft<K extends DraftKind>(
  kind: K,
  subject: string,
  request: { document: DraftDocuments[K]; baseVersion: number | null; revision: number },
  actor: Actor,
  { db, now }: Write,
): Promise<Draft<DraftDocuments[K]>> {
  await assertSubject(db, kind, subject, actor)
  if (kind === 'ingredient' && 'isSealed' in request.document && request.document.isSealed && !mayOpen(actor.role))
    throw new Refusal('notAllowed', 'only a manager seals')
  if (kind === 'drink' && request.baseVersion !== null && !(await findVersion(db, subject, request.baseVersion)))
    throw invalid('baseVersion', `there is no version ${request.baseVersion} of this ${NAMES[kind]}`)
  const before = await store.findDraft(db, kind, subject)
  const revision = await store.writeDraft(db, kind, { subject, ...request }, stampOf(actor, now()))
  if (revision === undefined) {
    // Sent twice, and the first answer was lost on the way: it is there.
    const isOurs = before?.savedById === actor.id && isSame(before?.document, request.document)
    if (before && isOurs && before.baseVersion === request.baseVersion) return before
    refuseStale(before)
  }
  if (before && before.savedById !== actor.id) await store.keepReplacedDraft(db, kind, before, now())
  const saved = await store.findDraft(db, kind, subject)
  if (!saved) throw new Error('bug: a draft that was saved is not there')
  return saved
}

/** Drops a draft; its words are kept among the replaced ones. */
export async function dropDraft(
  kind: DraftKind,
  subject: string,
  revision: number,
  actor: Actor,
  { db, now }: Write,
): Promise<{ dropped: true }> {
  await assertSubject(db, kind, subject, actor)
  const draft = await store.findDraft(db, kind, subject)
  if (!draft) throw new Refusal('notFound', `“${subject}” has no draft`)
  await endDraft(db, kind, draft, revision, now())
  return { dropped: true }
}

/**
 * Takes a draft away because it is saved, or dropped; its words stay among the replaced ones.
 * @throws Refusal `conflict` when it is not the one that was looked at
 */
export async function endDraft(
  db: Database,
  kind: DraftKind,
  draft: Draft<object> & { savedById: number | null },
  revision: number,
  at: Date,
): Promise<void> {
  if (draft.revision !== revision) refuseStale(draft)
  await store.keepReplacedDraft(db, kind, draft, at)
  if (!(await store.deleteDraft(db, kind, draft.subject, revision))) refuseStale(draft)
}
