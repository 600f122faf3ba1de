import type { TastingEvent, TastingKey, TastingSheet } from '@conch/core/tasting'
import { asc, desc, eq, inArray } from 'drizzle-orm'
import type { Database } from '../database/index.ts'
import { tastingEvents, tastingKeys, tastingSheets, tastings } from '../database/schema.ts'

type Row = typeof tastings.$inferSelect
export interface KeptTasting extends Row {
  end: { at: string; by: string; event: TastingEvent } | null
}

async function withEnds(db: Database, rows: Row[]): Promise<KeptTasting[]> {
  if (rows.length === 0) return []
  const ids = rows.map((r) => r.id)
  const ends = await db.select().from(tastingEvents).where(inArray(tastingEvents.tasting, ids))
  return rows.map((row) => {
    const end = ends.find((e) => e.tasting === row.id)
    return { ...row, end: end ? { at: end.at.toISOString(), by: end.by, event: end.event } : null }
  })
}

/** The newest tastings, newest first. */
export async function loadTastings(db: Database, limit: number): Promise<KeptTasting[]> {
  return withEnds(db, await db.select().from(tastings).orderBy(desc(tastings.id)).limit(limit))
}

export async function findTasting(db: Database, id: number): Promise<KeptTasting | undefined> {
  return (await withEnds(db, await db.select().from(tastings).where(eq(tastings.id, id))))[0]
}

export interface WrittenSheet {
  by: number | null
  sheet: TastingSheet
}

/** Every sheet, in the order in which they were written. */
export async function loadSheets(db: Database, tasting: number): Promise<WrittenSheet[]> {
  const rows = await db
    .select({ by: tastingSheets.savedById, sheet: tastingSheets.document })
    .from(tastingSheets)
    .where(eq(tastingSheets.tasting, tasting))
    .orderBy(asc(tastingSheets.id))
  return rows
}

export async function insertTasting(db: Database, row: typeof tastings.$inferInsert, key: TastingKey): Promise<number> {
  const [made] = await db.insert(tastings).values(row).returning({ id: tastings.id })
  if (!made) throw new Error('bug: a tasting was not stored')
  await db.insert(tastingKeys).values({ tasting: made.id, key })
  return made.id
}

export async function findKey(db: Database, tasting: number): Promise<TastingKey | undefined> {
  const [row] = await db.select().from(tastingKeys).where(eq(tastingKeys.tasting, tasting))
  return row?.key
}

export async function insertSheet(db: Database, row: typeof tastingSheets.$inferInsert): Promise<number> {
  const [made] = await db.insert(tastingSheets).values(row).returning({ id: tastingSheets.id })
  if (!made) throw new Error('bug: a sheet was not stored')
  return made.id
}

/** Ends a tasting: its key is secret no longer, or of no use any more. */
export async function insertEnd(db: Database, row: typeof tastingEvents.$inferInsert): Promise<number> {
  const [made] = await db.insert(tastingEvents).values(row).returning({ id: tastingEvents.id })
  if (!made) throw new Error('bug: the end of a tasting was not stored')
  await db.delete(tastingKeys).where(eq(tastingKeys.tasting, row.tasting))
  return made.id
}
