import type { Lot, LotEvent } from '@conch/core/formula'
import { and, asc, desc, eq, inArray, isNotNull, not, or, sql } from 'drizzle-orm'
import type { Database } from '../database/index.ts'
import { ingredients, lotEvents, lots } from '../database/schema.ts'

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
  // All at once: the last word about the end of each.
  const ends = db
    .selectDistinctOn([lotEvents.lot], { lot: lotEvents.lot, isEnd: lotEvents.isEnd })
    .from(lotEvents)
    .where(isNotNull(lotEvents.isEnd))
    .orderBy(lotEvents.lot, desc(lotEvents.id))
    .as('ends')
  const rows = await db
    .select(columns)
    .from(lots)
    .innerJoin(ingredients, eq(lots.ingredient, ingredients.slug))
    .leftJoin(ends, eq(ends.lot, lots.id))
    .where(sql`coalesce(${ends.isEnd}, false) = false`)
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

/** Which lots are wanted; left out: all. */
export interface WhichLots {
  /** Of these things, or this number, or made by these hands. */
  either?: { slugs: readonly string[]; id: number | undefined; hands: readonly string[] } | undefined
  of?: string | undefined
}

export interface LotsInOrder {
  by: 'number' | 'useBy'
  isDown: boolean
  from: number
  limit: number
}

function whereOf({ either, of }: WhichLots) {
  const any = either && [
    either.slugs.length > 0 ? inArray(lots.ingredient, [...either.slugs]) : undefined,
    either.id === undefined ? undefined : eq(lots.id, either.id),
    either.hands.length > 0 ? inArray(lots.savedBy, [...either.hands]) : undefined,
  ]
  // Where nothing is meant nothing is found.
  if (any && !any.some(Boolean)) return sql`false`
  return and(any && or(...any), of === undefined ? undefined : eq(lots.ingredient, of))
}

/** How many lots there are of each thing. */
export async function countLots(db: Database, which: WhichLots): Promise<Map<string, number>> {
  const rows = await db
    .select({ ingredient: lots.ingredient, count: sql<number>`count(*)::int` })
    .from(lots)
    .where(whereOf(which))
    .groupBy(lots.ingredient)
  return new Map(rows.map((r) => [r.ingredient, r.count]))
}

/** Lots in an order; those without a use-by as if it never came. */
export async function loadLots(db: Database, which: WhichLots, { by, isDown, from, limit }: LotsInOrder) {
  // Where nothing stands is said of the number, too: so it is in the index.
  const orders = {
    number: isDown ? [desc(lots.id)] : [asc(lots.id)],
    useBy: isDown
      ? [sql`${lots.useBy} desc nulls first`, sql`${lots.id} asc nulls first`]
      : [sql`${lots.useBy} asc nulls last`, sql`${lots.id} desc nulls last`],
  }
  const rows = await db
    .select(columns)
    .from(lots)
    .innerJoin(ingredients, eq(lots.ingredient, ingredients.slug))
    .where(whereOf(which))
    .orderBy(...orders[by])
    .limit(limit)
    .offset(from)
  return withEvents(db, rows)
}

/** Everybody who ever wrote a lot down. */
export async function loadHands(db: Database): Promise<string[]> {
  const rows = await db.selectDistinct({ by: lots.savedBy }).from(lots)
  return rows.map((r) => r.by)
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
