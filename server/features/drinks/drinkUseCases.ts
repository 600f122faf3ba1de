import type { CreateDrink, Drink, DrinkPage, ListedVersion, SaveVersion, Version } from '@conch/contract'
import type { DrinkDocument } from '@conch/core/drink'
import { drinkDocumentSchema } from '@conch/core/drink/schema'
import { collapseToBlend } from '@conch/core/formula'
import { toSlug } from '@conch/core/house'
import { type Actor, stampOf } from '../../access/actor.ts'
import type { Database } from '../../database/index.ts'
import { invalid, Refusal } from '../../errors/Refusal.ts'
import type { Write } from '../../events/index.ts'
import { baseOf, type HeldDrink, type HeldHouse, heldHouse } from '../../held/index.ts'
import type { Services } from '../../http/route.ts'
import { drinksPouringAll } from '../../kept/index.ts'
import { findDraft, writeDraft } from '../../stores/drafts.ts'
import * as store from '../../stores/drinks.ts'
import { endDraft } from '../drafts/index.ts'
import { writeVersion } from './writeVersion.ts'

/** What a page of drinks is asked for. */
export interface DrinksAsked {
  words?: string | undefined
  of?: string[] | undefined
  sort?: 'name' | 'poured' | 'versions' | 'changed' | undefined
  down?: 'yes' | undefined
  from: number
  limit: number
  /** With those that were put out of the way; left out: without. */
  hidden?: 'with' | undefined
  /** Only those that have a version. */
  made?: 'yes' | undefined
}

const least = (a: number | string, b: number | string) => (a < b ? -1 : a > b ? 1 : 0)

/** A page of the drinks by name; of those that words lead to, best first unless a sort is asked for. */
export async function listDrinks(
  asked: DrinksAsked,
  { database: { db }, glasses }: Pick<Services, 'database' | 'glasses'>,
): Promise<DrinkPage> {
  const held = await heldHouse(db)
  const isAnyShown = asked.hidden === 'with' || asked.of !== undefined
  const found = asked.words?.trim() ? held.drinkFinder.find(asked.words) : undefined
  const slugs = asked.of ?? found?.slugs
  const byName = held.drinksByName()
  const { poured, planned } = held.listed
  const some = slugs?.flatMap((slug) => held.drinks.get(slug) ?? []).filter((d) => isAnyShown || !d.isHidden)
  let wanted: readonly HeldDrink[] = isAnyShown ? byName.all : byName.inSight
  if (some) {
    const isAsked = new Set(some)
    // Words lead to the best first; a sort that is asked for comes before that.
    wanted = asked.sort ? wanted.filter((d) => isAsked.has(d)) : some
  }
  // By name they stand already: what is equal stays in that order.
  if (asked.sort === 'versions') wanted = wanted.toSorted((a, b) => a.versionCount - b.versionCount)
  if (asked.sort === 'changed') wanted = wanted.toSorted((a, b) => least(a.changedAt ?? '', b.changedAt ?? ''))
  if (asked.sort === 'poured') {
    // As on the menu; what is not poured comes after it.
    const placeOf = new Map([...poured.keys()].map((slug, place) => [slug, place]))
    const place = (d: HeldDrink) => placeOf.get(d.slug) ?? poured.size
    wanted = wanted.toSorted((a, b) => place(a) - place(b))
  }
  if (asked.made) {
    const shown = await glasses.shownVersions()
    wanted = wanted.filter((d) => shown.has(d.slug))
  }
  if (asked.down) wanted = wanted.toReversed()
  const page = wanted.slice(asked.from, asked.from + asked.limit)
  return {
    total: wanted.length,
    hidden: byName.all.length - byName.inSight.length,
    isNear: found?.isNear ?? false,
    from: asked.from,
    rows: page.map((d) => ({
      ...d,
      hasDraft: held.drafts.drinks.has(d.slug),
      pouredVersion: poured.get(d.slug) ?? null,
      plannedVersion: planned.get(d.slug) ?? null,
    })),
  }
}

/** Those of these versions that are there, in the order in which they were asked for. */
export async function listVersions(
  db: Database,
  keys: readonly { drink: string; version: number }[],
): Promise<ListedVersion[]> {
  const found = await store.loadVersionsOf(db, keys)
  return keys.flatMap(({ drink, version }) => {
    const row = found.get(`${drink} ${version}`)
    return row ? [{ ...row, savedAt: row.savedAt.toISOString() }] : []
  })
}

/** Versions that pour a blend's very bottles in its very shares: whoever reads them reads its formula. */
export async function findInTheOpen(
  slug: string,
  { database: { db }, held: holder }: Pick<Services, 'database' | 'held'>,
): Promise<{ drink: string; name: string; number: number }[]> {
  const held = await holder.now()
  const blend = held.ingredient(slug)
  if (!blend?.recipe) throw new Refusal('notFound', `there is no blend “${slug}”`)
  const { recipe } = blend
  const drinks = await drinksPouringAll(
    db,
    recipe.components.map((c) => c.ingredient),
  )
  const versions = (await Promise.all(drinks.map((drink) => store.loadVersions(db, drink)))).flat()
  const { kit } = baseOf(held).settings
  return versions.flatMap(({ drink, number, document }) =>
    collapseToBlend(document.pours, { ...blend, recipe }, kit, { partMl: document.partMl })
      ? [{ drink, name: document.name, number }]
      : [],
  )
}

/** A drink as it is held, with its versions and its draft. @throws Refusal `notFound` */
export async function showDrink(slug: string, { database: { db }, held }: Pick<Services, 'database' | 'held'>) {
  const house = await held.now()
  const drink = house.drinks.get(slug)
  if (!drink) throw new Refusal('notFound', `there is no drink “${slug}”`)
  const draft = house.drafts.drinks.has(slug) ? await findDraft(db, 'drink', slug) : undefined
  return withVersions(db, drink, draft, house)
}

/** A drink as it is within a write. @throws Refusal `notFound` */
async function getDrink(tx: Database, slug: string): Promise<Drink> {
  const drink = await store.findDrink(tx, slug)
  if (!drink) throw new Refusal('notFound', `there is no drink “${slug}”`)
  return withVersions(tx, drink, await findDraft(tx, 'drink', slug), await heldHouse(tx))
}

async function withVersions(
  db: Database,
  { slug, name, isHidden }: Pick<HeldDrink, 'slug' | 'name' | 'isHidden'>,
  draft: Drink['draft'] | undefined,
  { listed: { edition, poured, planned } }: HeldHouse,
): Promise<Drink> {
  const version = poured.get(slug)
  const versions = await store.loadVersions(db, slug)
  return {
    slug,
    name,
    isHidden,
    versions,
    draft: draft ?? null,
    poured: version === undefined ? null : { version, edition },
    planned: planned.get(slug) ?? null,
    // Its first version has it as a parent.
    riffOf: versions.length === 0 ? ((await store.findDrink(db, slug))?.riffOf ?? null) : null,
  }
}

/** A new drink with a first draft: the given document, or an empty-handed start. */
export async function createDrink(request: CreateDrink, actor: Actor, write: Write): Promise<Drink> {
  const { db: tx, now, record } = write
  const slug = toSlug(request.name)
  if (slug === '') {
    const message = 'needs a letter or a digit'
    throw new Refusal('invalid', `name: ${message}`, { fields: [{ field: 'name', message }] })
  }
  const held = await heldHouse(tx)
  const { glasses } = baseOf(held)
  const { name, riffOf, found } = request
  const parent = riffOf && (await store.findVersion(tx, riffOf.drink, riffOf.version))
  if (riffOf && !parent) throw invalid('riffOf', `there is no version ${riffOf.version} of “${riffOf.drink}”`)
  if (!(await store.insertDrink(tx, { slug, name, riffOf: riffOf ?? null })))
    throw new Refusal('exists', `there is a drink “${name}” already; choose another name`)
  record({ kind: 'drink', subject: slug, verb: 'made', detail: { name, ...(riffOf ? { riffOf } : {}) } })
  const document =
    request.document ??
    (parent ? { ...parent.document, name } : firstDocument(name, held.allIngredients()[0]?.slug, glasses[0]?.slug))
  if (found) await writeVersion({ drink: slug, document, begunFrom: null, ...found }, actor, write)
  else await writeDraft(tx, 'drink', { subject: slug, baseVersion: null, document, revision: 0 }, stampOf(actor, now()))
  return getDrink(tx, slug)
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

/**
 * Makes a version of a drink's draft, for ever.
 * @throws Refusal `conflict` when the draft is not the one that was looked at
 */
export async function saveVersion(slug: string, request: SaveVersion, actor: Actor, write: Write): Promise<Version> {
  const { db: tx, now } = write
  const draft = await findDraft(tx, 'drink', slug)
  if (!draft) throw new Refusal('notFound', `“${slug}” has no draft to save`)
  await endDraft(tx, 'drink', draft, request.draftRevision, now())
  const { draftRevision: _, ...said } = request
  const { document, baseVersion: begunFrom } = draft
  const { riffOf } = (await store.findDrink(tx, slug)) ?? {}
  // The first version of a riff comes from what the riff was begun with.
  const parents = begunFrom === null && riffOf ? [riffOf, ...said.parents] : said.parents
  const version = await writeVersion({ drink: slug, document, begunFrom, ...said, parents }, actor, write)
  await store.renameDrink(tx, slug, document.name)
  return version
}

/**
 * Throws a mistaken drink away, draft and all: only before it has a version, which stays for ever.
 * @throws Refusal `immutable` afterwards: then it can be hidden
 */
export async function deleteDrink(slug: string, { db: tx, now, record }: Write): Promise<{ deleted: true }> {
  const drink = await store.findDrink(tx, slug)
  if (!drink) throw new Refusal('notFound', `there is no drink “${slug}”`)
  if ((await store.latestVersionNumber(tx, slug)) > 0)
    throw new Refusal('immutable', `${drink.name} has a version, and versions stay; hide the drink instead`)
  const draft = await findDraft(tx, 'drink', slug)
  if (draft) await endDraft(tx, 'drink', draft, draft.revision, now())
  await store.removeDrink(tx, slug)
  record({ kind: 'drink', subject: slug, verb: 'deleted', detail: { was: { name: drink.name } } })
  return { deleted: true }
}

/**
 * Puts a drink out of the way of those who search, or back. Nothing of it is gone.
 * @throws Refusal while it is poured or planned
 */
export async function hideDrink(
  slug: string,
  { isHidden }: { isHidden: boolean },
  { db: tx, record }: Write,
): Promise<Drink> {
  const drink = await getDrink(tx, slug)
  if (isHidden && drink.planned !== null)
    throw invalid('isHidden', `${drink.name} is planned for the next edition; take it off first`)
  if (isHidden && drink.poured)
    throw invalid(
      'isHidden',
      `${drink.name} is poured in edition ${drink.poured.edition}; publish one without it first`,
    )
  if (drink.isHidden !== isHidden) {
    await store.setHidden(tx, slug, isHidden)
    record({ kind: 'drink', subject: slug, verb: isHidden ? 'hidden' : 'shown' })
  }
  return { ...drink, isHidden }
}
