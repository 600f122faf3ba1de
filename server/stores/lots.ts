import type { Lot, LotEvent } from '@conch/core/lots'
import { and, inArray, type SQL, sql } from 'drizzle-orm'
import type { Database } from '../database/index.ts'
import { ingredients, lotEvents, lots } from '../database/schema.ts'
import { readAsText } from './readAsText.ts'

/** The last word about its end is that it ended. */
const IS_CLOSED = sql`coalesce((
  select e.is_end from ${lotEvents} e where e.lot = l.id and e.is_end is not null order by e.id desc limit 1
), false)`

const idsOf = (ids: readonly number[]) => sql`l.id = any(${`{${ids}}`}::int[])`

/** Lots with what happened to them, oldest first. @param where of the lot `l`, or of what comes `beside` it */
async function readLots(db: Database, where: SQL, beside: SQL = sql``): Promise<Lot[]> {
  const events = sql`select json_agg(json_build_array(e.at, e.by, e.event) order by e.id)
    from ${lotEvents} e where e.lot = l.id`
  const rows = await readAsText<
    [number, string, string, string, string, string | null, unknown, [string, string, unknown][] | null]
  >(
    db,
    sql`select json_build_array(l.id, l.ingredient, i.document ->> 'name', l.made_on, l.saved_by, l.use_by, l.document,
          (${events})) as row
        from ${lots} l join ${ingredients} i on i.slug = l.ingredient ${beside} where ${where} order by l.id`,
  )
  return rows.map(([id, ingredient, name, madeOn, madeBy, useBy, document, happened]) => ({
    id,
    ingredient,
    name,
    madeOn,
    madeBy,
    useBy,
    document: lots.document.mapFromDriverValue(document) as Lot['document'],
    events: (happened ?? []).map(([at, by, event]) => ({
      at: new Date(at).toISOString(),
      by,
      event: lotEvents.event.mapFromDriverValue(event) as LotEvent,
    })),
  }))
}

/** Lots that are neither used up nor discarded, oldest first. */
export async function loadOpenLots(db: Database): Promise<Lot[]> {
  // All at once: the last word about the end of each.
  const ends = sql`left join (
    select distinct on (lot) lot, is_end from ${lotEvents} where is_end is not null order by lot, id desc
  ) ends on ends.lot = l.id`
  return readLots(db, sql`ends.is_end is not true`, ends)
}

/** Those of these lots that are neither used up nor discarded. */
export async function findOpenLots(db: Database, ids: readonly number[]): Promise<Lot[]> {
  return ids.length === 0 ? [] : readLots(db, sql`${idsOf(ids)} and not ${IS_CLOSED}`)
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

/** As much of a lot as tells where it stands in a list. It never changes. */
export type LotLine = Pick<Lot, 'id' | 'ingredient' | 'useBy' | 'madeBy'>

/** So many at once: one text for many rows is read several times as fast as rows. */
const LINES_AT_ONCE = 10_000

/** The lines of all lots behind one, oldest first, gone ones too. */
export async function loadLotLines(db: Database, after: number): Promise<LotLine[]> {
  const all: LotLine[] = []
  // What many have in common stands in memory once.
  const known = new Map<string, string>()
  const once = (text: string) => {
    if (!known.has(text)) known.set(text, text)
    return known.get(text) as string
  }
  for (let from = after; ; ) {
    const rows = await readAsText<[number, string, string | null, string]>(
      db,
      sql`select id, json_build_array(id, ingredient, use_by, saved_by) as row from ${lots}
          where id > ${from} order by id limit ${LINES_AT_ONCE}`,
    )
    for (const [id, ingredient, useBy, madeBy] of rows)
      all.push({ id, ingredient: once(ingredient), useBy: useBy && once(useBy), madeBy: once(madeBy) })
    if (rows.length < LINES_AT_ONCE) return all
    from = rows.at(-1)?.[0] ?? from
  }
}

/** Pressings of the last months, newest first: what a fruit gives. */
export async function loadPressings(db: Database, most: number): Promise<Lot[]> {
  const newest = sql`(select id from ${lots} where document ? 'pressed' order by id desc limit ${most})`
  return (await readLots(db, sql`l.id in ${newest}`)).reverse()
}

export async function findLots(db: Database, ids: readonly number[]): Promise<Lot[]> {
  return ids.length === 0 ? [] : readLots(db, idsOf(ids))
}

export const findLot = async (db: Database, id: number): Promise<Lot | undefined> => (await findLots(db, [id]))[0]

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
