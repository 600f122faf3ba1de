import type { Lot, LotDocument, LotEvent } from '@conch/core/formula'
import { and, asc, desc, eq, inArray, isNotNull, sql } from 'drizzle-orm'
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

/** Lots that are neither used up nor discarded, oldest first. */
export async function loadOpenLots(db: Database): Promise<Lot[]> {
  const lastWord = db
    .select({ isEnd: lotEvents.isEnd })
    .from(lotEvents)
    .where(and(eq(lotEvents.lot, lots.id), isNotNull(lotEvents.isEnd)))
    .orderBy(desc(lotEvents.id))
    .limit(1)
  const rows = await db
    .select(columns)
    .from(lots)
    .innerJoin(ingredients, eq(lots.ingredient, ingredients.slug))
    .where(sql`not coalesce((${lastWord}), false)`)
    .orderBy(asc(lots.id))
  return withEvents(db, rows)
}

/** The newest lots, gone or not, newest first; of one thing when it is named. */
export async function loadNewestLots(
  db: Database,
  { ingredient, most }: { ingredient?: string | undefined; most: number },
): Promise<Lot[]> {
  const rows = await db
    .select(columns)
    .from(lots)
    .innerJoin(ingredients, eq(lots.ingredient, ingredients.slug))
    .where(ingredient === undefined ? undefined : eq(lots.ingredient, ingredient))
    .orderBy(desc(lots.id))
    .limit(most)
  return withEvents(db, rows)
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

export async function findLot(db: Database, id: number): Promise<Lot | undefined> {
  const rows = await db
    .select(columns)
    .from(lots)
    .innerJoin(ingredients, eq(lots.ingredient, ingredients.slug))
    .where(eq(lots.id, id))
  return (await withEvents(db, rows))[0]
}

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
  return rows.map((row) => ({
    ...row,
    events: events.filter((e) => e.lot === row.id).map(({ at, by, event }) => ({ at: at.toISOString(), by, event })),
  }))
}

export async function insertLot(
  db: Database,
  lot: {
    ingredient: string
    madeOn: string
    useBy: string | null
    document: LotDocument
    savedBy: string
    savedAt: Date
  },
): Promise<number> {
  const [row] = await db.insert(lots).values(lot).returning({ id: lots.id })
  if (!row) throw new Error('bug: a lot was not stored')
  return row.id
}

export async function insertLotEvent(
  db: Database,
  { lot, at, by, event }: { lot: number; at: Date; by: string; event: LotEvent },
): Promise<void> {
  const isEnd = event.kind === 'reopened' ? false : event.kind === 'usedUp' || event.kind === 'discarded' ? true : null
  await db.insert(lotEvents).values({ lot, at, by, event, isEnd })
}
