import type { Glass, HouseBook, Ingredient, Settings, Well } from '@conch/core/house'
import type { Slot } from '@conch/core/palate'
import { and, eq, max, sql } from 'drizzle-orm'
import type { Database } from '../database/index.ts'
import { glasses, house, ingredients, slots, stations, wells } from '../database/schema.ts'

/** Whether there is a house: much cheaper than all of it. */
export async function isSetUp(db: Database): Promise<boolean> {
  return (await db.select({ id: house.id }).from(house)).length > 0
}

export async function insertHouse(db: Database, book: HouseBook, isDemo: boolean): Promise<void> {
  await db.insert(house).values({ settings: book.settings, isDemo })
  for (const [position, well] of book.wells.entries()) await insertWell(db, well, position)
  const positioned = <T extends { slug: string }>(list: T[]) =>
    list.map((document, position) => ({ slug: document.slug, position, document }))
  if (book.glasses.length > 0) await db.insert(glasses).values(positioned(book.glasses))
  if (book.ingredients.length > 0) await db.insert(ingredients).values(positioned(book.ingredients))
  if (book.slots && book.slots.length > 0) await db.insert(slots).values(positioned(book.slots))
}

async function insertWell(db: Database, { stations: own, ...document }: Well, position: number): Promise<void> {
  await db.insert(wells).values({ slug: document.slug, position, document })
  await insertStations(db, document.slug, own)
}

async function insertStations(db: Database, well: string, own: Well['stations']): Promise<void> {
  if (own.length === 0) return
  await db.insert(stations).values(own.map((document, position) => ({ well, slug: document.slug, position, document })))
}

/** A station keeps its identity through every change, and when it is removed: trials point at it. */
async function changeStations(db: Database, well: string, own: Well['stations']): Promise<void> {
  await db.update(stations).set({ isRemoved: true }).where(eq(stations.well, well))
  for (const [position, document] of own.entries()) {
    const row = { well, slug: document.slug, position, document, isRemoved: false }
    await db
      .insert(stations)
      .values(row)
      .onConflictDoUpdate({ target: [stations.well, stations.slug], set: row })
  }
}

/** What a save of something with a revision came to. */
export type Saved = { outcome: 'saved'; revision: number } | { outcome: 'stale' }

export async function saveSettings(db: Database, settings: Settings, revision: number): Promise<Saved> {
  const rows = await db
    .update(house)
    .set({ settings, revision: sql`${house.revision} + 1` })
    .where(eq(house.revision, revision))
    .returning({ revision: house.revision })
  return toSaved(rows)
}

const toSaved = (rows: { revision: number }[]): Saved =>
  rows[0] ? { outcome: 'saved', revision: rows[0].revision } : { outcome: 'stale' }

export async function saveWell(db: Database, well: Well, revision: number): Promise<Saved> {
  const { stations: own, ...document } = well
  if (revision === 0) {
    const [last] = await db.select({ position: max(wells.position) }).from(wells)
    const made = await db
      .insert(wells)
      .values({ slug: well.slug, position: (last?.position ?? -1) + 1, document })
      .onConflictDoNothing()
      .returning({ revision: wells.revision })
    if (made.length > 0) await insertStations(db, well.slug, own)
    return toSaved(made)
  }
  const rows = await db
    .update(wells)
    .set({ document, revision: sql`${wells.revision} + 1` })
    .where(and(eq(wells.slug, well.slug), eq(wells.revision, revision)))
    .returning({ revision: wells.revision })
  if (rows.length > 0) {
    await changeStations(db, well.slug, own)
  }
  return toSaved(rows)
}

/** Stores many at once: new ones at the end of the shelf, those that are there already in their place. */
export async function upsertIngredients(db: Database, documents: readonly Ingredient[]): Promise<void> {
  const [last] = await db.select({ position: max(ingredients.position) }).from(ingredients)
  const first = (last?.position ?? -1) + 1
  for (let i = 0; i < documents.length; i += ROWS_AT_ONCE) {
    await db
      .insert(ingredients)
      .values(
        documents
          .slice(i, i + ROWS_AT_ONCE)
          .map((document, n) => ({ slug: document.slug, position: first + i + n, document })),
      )
      .onConflictDoUpdate({
        target: ingredients.slug,
        set: { document: sql`excluded.document`, revision: sql`${ingredients.revision} + 1` },
      })
  }
}

/** A statement has at most 65,535 parameters. */
const ROWS_AT_ONCE = 1000

/** Glasses, ingredients and slots are kept alike: a document under its slug, with a revision. */
const shelves = { glasses, ingredients, slots } as const

export async function saveOnShelf(
  db: Database,
  shelf: keyof typeof shelves,
  document: Glass | Ingredient | Slot,
  revision: number,
): Promise<Saved> {
  const table = shelves[shelf]
  if (revision === 0) {
    const [last] = await db.select({ position: max(table.position) }).from(table)
    const rows = await db
      .insert(table)
      .values({ slug: document.slug, position: (last?.position ?? -1) + 1, document: document as never })
      .onConflictDoNothing()
      .returning({ revision: table.revision })
    return toSaved(rows)
  }
  const rows = await db
    .update(table)
    .set({ document: document as never, revision: sql`${table.revision} + 1` })
    .where(and(eq(table.slug, document.slug), eq(table.revision, revision)))
    .returning({ revision: table.revision })
  return toSaved(rows)
}
