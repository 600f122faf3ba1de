import type { Lot, LotEvent } from '@conch/core/formula'
import { and, asc, desc, eq, ilike, inArray, isNotNull, not, or, sql } from 'drizzle-orm'
import type { Database } from '../../database/index.ts'
import { ingredients, lotEvents, lots } from '../../database/schema.ts'

const NAME = sql<string>`${ingredients.document} ->> 'name'`
const columns = {
  id: lots.id,
  ingredient: lots.ingredient,
  name: NAME,
  madeOn: lots.madeOn,
  madeBy: lots.savedBy,
  useBy: lots.useBy,
  document: lots.document,
}

/** Whether the last word about its end is that it ended. */
const hasEnded = (db: Database) =>
  sql`coalesce((${db
    .select({ isEnd: lotEvents.isEnd })
    .from(lotEvents)
    .where(and(eq(lotEvents.lot, lots.id), isNotNull(lotEvents.isEnd)))
    .orderBy(desc(lotEvents.id))
    .limit(1)}), false)`

/** Lots that are neither used up nor discarded, oldest first. */
export async function loadOpenLots(db: Database): Promise<Lot[]> {
  const rows = await db
    .select(columns)
    .from(lots)
    .innerJoin(ingredients, eq(lots.ingredient, ingredients.slug))
    .where(not(hasEnded(db)))
    .orderBy(asc(lots.id))
  return withEvents(db, rows)
}

/** Those of these lots that are neither used up nor discarded. */
export async function findOpenLots(db: Database, ids: readonly number[]): Promise<Lot[]> {
  if (ids.length === 0) return []
  const rows = await db
    .select(columns)
    .from(lots)
    .innerJoin(ingredients, eq(lots.ingredient, ingredients.slug))
    .where(and(inArray(lots.id, [...ids]), not(hasEnded(db))))
  return withEvents(db, rows)
}

/** Whether one of these lots was pressed from fruit. */
export async function isPressed(db: Database, ids: readonly number[]): Promise<boolean> {
  const rows = await db
    .select({ id: lots.id })
    .from(lots)
    .where(and(inArray(lots.id, [...ids]), sql`${lots.document} ? 'pressed'`))
    .limit(1)
  return rows.length > 0
}

/** What a page of lots is asked for. */
export interface LotsAsked {
  /** Of these things, or this number, or made by somebody whose name has these letters; left out: all. */
  which?: { slugs: readonly string[]; id: number | undefined; by: string } | undefined
  of?: string | undefined
  isOpen: boolean
  /** Left out: the newest first. */
  sort: 'number' | 'useBy' | 'name' | undefined
  isDown: boolean
  from: number
  limit: number
}

/** A page of the lots, and how many there are. */
export async function loadLotPage(db: Database, asked: LotsAsked): Promise<{ total: number; rows: Lot[] }> {
  const { which } = asked
  const found =
    which &&
    or(
      which.slugs.length > 0 ? inArray(lots.ingredient, [...which.slugs]) : undefined,
      which.id === undefined ? undefined : eq(lots.id, which.id),
      ilike(lots.savedBy, `%${which.by.replace(/[\\%_]/g, '\\$&')}%`),
    )
  const where = and(
    found,
    asked.of === undefined ? undefined : eq(lots.ingredient, asked.of),
    asked.isOpen ? not(hasEnded(db)) : undefined,
  )
  const [count] = await db.select({ total: sql<number>`count(*)::int` }).from(lots).where(where)
  const way = asked.isDown ? desc : asc
  const orders = {
    number: [way(lots.id)],
    name: [way(sql`lower(${columns.name})`), desc(lots.id)],
    useBy: [sql`${lots.useBy} ${sql.raw(asked.isDown ? 'desc nulls last' : 'asc nulls last')}`, desc(lots.id)],
  }
  const order = asked.sort ? orders[asked.sort] : [desc(lots.id)]
  const rows = await db
    .select(columns)
    .from(lots)
    .innerJoin(ingredients, eq(lots.ingredient, ingredients.slug))
    .where(where)
    .orderBy(...order)
    .limit(asked.limit)
    .offset(asked.from)
  return { total: count?.total ?? 0, rows: await withEvents(db, rows) }
}

/** Pressings of the last months, newest first: what a fruit gives. */
export async function loadPressings(db: Database, most: number): Promise<Lot[]> {
  const rows = await db
    .select(columns)
    .from(lots)
    .innerJoin(ingredients, eq(lots.ingredient, ingredients.slug))
    .where(sql`${lots.document} ? 'pressed'`)
    .orderBy(desc(lots.id))
    .limit(most)
  return withEvents(db, rows)
}

export async function findLots(db: Database, ids: readonly number[]): Promise<Lot[]> {
  if (ids.length === 0) return []
  const rows = await db
    .select(columns)
    .from(lots)
    .innerJoin(ingredients, eq(lots.ingredient, ingredients.slug))
    .where(inArray(lots.id, [...ids]))
  return withEvents(db, rows)
}

export const findLot = async (db: Database, id: number): Promise<Lot | undefined> => (await findLots(db, [id]))[0]

async function withEvents(db: Database, rows: Omit<Lot, 'events'>[]): Promise<Lot[]> {
  if (rows.length === 0) return []
  const events = await db
    .select()
    .from(lotEvents)
    .where(
      inArray(
        lotEvents.lot,
        rows.map((r) => r.id),
      ),
    )
    .orderBy(asc(lotEvents.id))
  const byLot = new Map<number, Lot['events']>()
  for (const { lot, at, by, event } of events)
    byLot.set(lot, [...(byLot.get(lot) ?? []), { at: at.toISOString(), by, event }])
  return rows.map((row) => ({ ...row, events: byLot.get(row.id) ?? [] }))
}

export async function insertLot(db: Database, lot: typeof lots.$inferInsert): Promise<number> {
  const [row] = await db.insert(lots).values(lot).returning({ id: lots.id })
  if (!row) throw new Error('bug: a lot was not stored')
  return row.id
}

/** @returns the number of what happened, not of the lot */
export async function insertLotEvent(
  db: Database,
  { event, ...row }: { lot: number; at: Date; by: string; byId: number | null; event: LotEvent },
): Promise<number> {
  const isEnd = event.kind === 'reopened' ? false : event.kind === 'usedUp' || event.kind === 'discarded' ? true : null
  const [made] = await db
    .insert(lotEvents)
    .values({ ...row, event, isEnd })
    .returning({ id: lotEvents.id })
  if (!made) throw new Error('bug: what happened to a lot was not stored')
  return made.id
}
