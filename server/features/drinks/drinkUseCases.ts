import type { Draft, Drink, DrinkListing, UsualAmounts, Version } from '@conch/contract'
import { type DrinkDocument, glassFor } from '@conch/core/drink'
import { drinkDocumentSchema } from '@conch/core/drink/schema'
import { toSlug } from '@conch/core/house'
import { usualRange } from '@conch/core/reading'
import type { Actor } from '../../access/actor.ts'
import type { Database } from '../../database/index.ts'
import { Refusal } from '../../http/Refusal.ts'
import type { Services } from '../../http/route.ts'
import { recordAudit } from '../audit/store.ts'
import { findNewestListing } from '../editions/store.ts'
import { getHouse } from '../house/houseUseCases.ts'
import { toBook } from '../house/store.ts'
import { findPlan } from '../menu/store.ts'
import * as store from './store.ts'

export async function listDrinks(db: Database): Promise<DrinkListing[]> {
  const rows = await store.loadDrinkRows(db)
  const poured = await findNewestListing(db)
  const planned = new Map(
    (await findPlan(db))?.plan.chapters.flatMap((c) => c.entries.map((e) => [e.drink, e.version])),
  )
  return rows.map((row) => ({
    ...row,
    pouredVersion: poured?.versions.get(row.slug) ?? null,
    plannedVersion: planned.get(row.slug) ?? null,
  }))
}

/** @throws Refusal `notFound` */
export async function getDrink(db: Database, slug: string): Promise<Drink> {
  const drink = await store.findDrink(db, slug)
  if (!drink) throw new Refusal('notFound', `there is no drink “${slug}”`)
  const poured = await findNewestListing(db)
  const version = poured?.versions.get(slug)
  const planned = (await findPlan(db))?.plan.chapters.flatMap((c) => c.entries).find((e) => e.drink === slug)
  return {
    ...drink,
    versions: await store.loadVersions(db, slug),
    draft: (await store.findDraft(db, slug)) ?? null,
    poured: poured && version !== undefined ? { version, edition: poured.number } : null,
    planned: planned?.version ?? null,
  }
}

/** A new drink with a first draft: the given document, or an empty-handed start. */
export async function createDrink(
  request: { name: string; document?: DrinkDocument },
  actor: Actor,
  { database, now }: Services,
): Promise<Drink> {
  const slug = toSlug(request.name)
  if (slug === '') {
    const message = 'needs a letter or a digit'
    throw new Refusal('invalid', `name: ${message}`, { fields: [{ field: 'name', message }] })
  }
  return database.db.transaction(async (tx) => {
    const house = await getHouse(tx)
    if (!(await store.insertDrink(tx, slug, request.name))) {
      throw new Refusal('exists', `there is a drink “${request.name}” already; choose another name`)
    }
    const document = request.document ?? firstDocument(request.name, house.ingredients[0]?.slug, house.glasses[0]?.slug)
    const stamp = { savedBy: actor.name, savedAt: now() }
    await store.writeDraft(tx, { drink: slug, baseVersion: null, document, revision: 0 }, stamp)
    await recordAudit(tx, { at: now(), by: actor.name, act: 'createDrink', subject: slug, detail: {} })
    return getDrink(tx, slug)
  })
}

function firstDocument(name: string, ingredient: string | undefined, glass: string | undefined): DrinkDocument {
  const pour = ingredient ? { ingredient } : { figures: { name: 'first pour' } }
  return drinkDocumentSchema.parse({
    name,
    pours: [{ ...pour, amount: { value: 2, unit: 'oz' } }],
    stages: [{ method: 'crushedShake' }],
    glass,
  })
}

function refuseStaleDraft(current: Draft | undefined): never {
  const detail = current
    ? `${current.savedBy} saved this draft in between; compare the two before you go on`
    : 'the draft this was made on is gone: it was saved as a version or dropped'
  throw new Refusal('conflict', detail, { current: current ?? null })
}

/**
 * Saves the draft of a drink on the revision it was made from. What somebody else had written
 * there is kept. @throws Refusal `conflict` with the draft that stands there now
 */
export async function saveDraft(
  slug: string,
  request: { document: DrinkDocument; baseVersion: number | null; revision: number },
  actor: Actor,
  { database, now }: Services,
): Promise<Draft> {
  return database.db.transaction(async (tx) => {
    if (!(await store.findDrink(tx, slug))) throw new Refusal('notFound', `there is no drink “${slug}”`)
    if (request.baseVersion !== null && !(await store.findVersion(tx, slug, request.baseVersion))) {
      const message = `there is no version ${request.baseVersion} of this drink`
      throw new Refusal('invalid', `baseVersion: ${message}`, { fields: [{ field: 'baseVersion', message }] })
    }
    const before = await store.findDraft(tx, slug)
    const stamp = { savedBy: actor.name, savedAt: now() }
    const revision = await store.writeDraft(tx, { drink: slug, ...request }, stamp)
    if (revision === undefined) refuseStaleDraft(before)
    if (before && before.savedBy !== actor.name) await store.keepReplacedDraft(tx, before, now())
    return (await store.findDraft(tx, slug)) as Draft
  })
}

/** Drops a draft; its words are kept among the replaced ones. */
export async function dropDraft(
  slug: string,
  revision: number,
  { database, now }: Services,
): Promise<{ dropped: true }> {
  return database.db.transaction(async (tx) => {
    const draft = await store.findDraft(tx, slug)
    if (!draft) throw new Refusal('notFound', `“${slug}” has no draft`)
    await store.keepReplacedDraft(tx, draft, now())
    if (!(await store.deleteDraft(tx, slug, revision))) refuseStaleDraft(draft)
    return { dropped: true as const }
  })
}

/**
 * Makes a version of a drink's draft, for ever. It must be computable at every well.
 * @throws Refusal `conflict` when the draft is not the one that was looked at
 */
export async function saveVersion(
  slug: string,
  request: { draftRevision: number; reason: string; label: string },
  actor: Actor,
  { database, now }: Services,
): Promise<Version> {
  return database.db.transaction(async (tx) => {
    const draft = await store.findDraft(tx, slug)
    if (!draft) throw new Refusal('notFound', `“${slug}” has no draft to save`)
    if (draft.revision !== request.draftRevision) refuseStaleDraft(draft)
    await assertComputable(tx, draft.document, now())
    const number = (await store.latestVersionNumber(tx, slug)) + 1
    const { document, baseVersion: parent } = draft
    const { label, reason } = request
    await store.insertVersion(tx, {
      drink: slug,
      number,
      parent,
      label,
      reason,
      document,
      era: '',
      source: '',
      savedBy: actor.name,
      savedAt: now(),
    })
    await store.keepReplacedDraft(tx, draft, now())
    if (!(await store.deleteDraft(tx, slug, draft.revision))) refuseStaleDraft(draft)
    await store.renameDrink(tx, slug, document.name)
    await recordAudit(tx, { at: now(), by: actor.name, act: 'saveVersion', subject: slug, detail: { number, reason } })
    return (await store.findVersion(tx, slug, number)) as Version
  })
}

/** By the house's own versions where there are enough, else by kind. */
export async function getUsualAmounts(db: Database): Promise<UsualAmounts> {
  const { ingredients, settings } = await getHouse(db)
  const documents = (await store.loadAllVersions(db)).map((v) => v.document)
  return Object.fromEntries(
    ingredients.flatMap((i) => {
      const range = usualRange(i, documents, settings.kit)
      return range ? [[i.slug, range]] : []
    }),
  )
}

/** @throws Refusal `cannotCompute` with every place, for every well */
async function assertComputable(db: Database, document: DrinkDocument, now: Date): Promise<void> {
  const book = toBook(await getHouse(db), now)
  const fields = book.wells.flatMap((well) => {
    const glass = glassFor(document, book, well.slug)
    if (glass.ok) return []
    return glass.problems.map((p) => ({
      field: `document.${p.path.join('.')}`,
      message: `${p.message} (at the ${well.name})`,
    }))
  })
  const [first] = fields
  if (first) throw new Refusal('cannotCompute', `${first.field}: ${first.message}`, { fields })
}
