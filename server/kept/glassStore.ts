/** Kept glasses in the database. */

import type { DrinkDocument } from '@conch/core/drink'
import type { KeptGlass } from '@conch/core/menu'
import { and, eq, notInArray, sql } from 'drizzle-orm'
import type { Database } from '../database/index.ts'
import { keptGlasses, keptUpTo, versions } from '../database/schema.ts'
import { readAsText } from '../stores/readAsText.ts'
import type { Topic } from './topics.ts'

export interface VersionKey {
  drink: string
  version: number
}

export const keyOf = ({ drink, version }: VersionKey): string => `${drink} ${version}`

export type KeptRow = typeof keptGlasses.$inferInsert & { glass: KeptGlass; closed: KeptGlass | null }

/** So many keys in one statement. */
const KEYS_AT_ONCE = 500

const pairs = (keys: readonly VersionKey[]) =>
  sql.join(
    keys.map((k) => sql`(${k.drink}, ${k.version}::int)`),
    sql`, `,
  )

async function* inChunks<T>(all: readonly T[]): AsyncGenerator<T[]> {
  for (let i = 0; i < all.length; i += KEYS_AT_ONCE) yield all.slice(i, i + KEYS_AT_ONCE)
}

export async function loadKept(db: Database, keys: readonly VersionKey[], well?: string): Promise<KeptRow[]> {
  const all: KeptRow[] = []
  for await (const chunk of inChunks(keys)) {
    const rows = await db
      .select()
      .from(keptGlasses)
      .where(
        and(
          sql`(${keptGlasses.drink}, ${keptGlasses.version}) in (${pairs(chunk)})`,
          well === undefined ? undefined : eq(keptGlasses.well, well),
        ),
      )
    all.push(...rows)
  }
  return all
}

/** What is there, in brief: at how many of these wells, at how many others, and when it turns. */
export async function loadKeptKeys(db: Database, wells: readonly string[]) {
  const rows = await readAsText<[string, number, number, number, string | null]>(
    db,
    sql`select json_build_array(drink, version, count(*) filter (where well = any(${sql.param([...wells])}::text[])), count(*),
          min(turns_on)) as row
        from ${keptGlasses} group by drink, version`,
  )
  return rows.map(([drink, version, here, all, turnsOn]) => ({ drink, version, here, elsewhere: all - here, turnsOn }))
}

/** Versions with a glass that was computed before something that it depends on was touched. */
export async function findAffected(db: Database, touched: ReadonlyMap<Topic, number>): Promise<VersionKey[]> {
  if (touched.size === 0) return []
  const topics = [...touched.keys()]
  const last = Math.max(...touched.values())
  return db
    .selectDistinct({ drink: keptGlasses.drink, version: keptGlasses.version })
    .from(keptGlasses)
    .where(sql`${keptGlasses.dependsOn} && ${topicArray(topics)} and ${keptGlasses.sequence} < ${last}`)
}

const topicArray = (topics: readonly Topic[]) =>
  sql`array[${sql.join(
    topics.map((t) => sql`${t}`),
    sql`, `,
  )}]::text[]`

/** Versions with a glass that depends on one of these. */
export async function findDependent(db: Database, topics: readonly Topic[]): Promise<VersionKey[]> {
  if (topics.length === 0) return []
  return db
    .selectDistinct({ drink: keptGlasses.drink, version: keptGlasses.version })
    .from(keptGlasses)
    .where(sql`${keptGlasses.dependsOn} && ${topicArray(topics)}`)
}

/** Writes glasses; one that somebody else computed later stays. */
export async function saveKept(db: Database, rows: readonly KeptRow[]): Promise<void> {
  if (rows.length === 0) return
  await db
    .insert(keptGlasses)
    .values([...rows])
    .onConflictDoUpdate({
      target: [keptGlasses.drink, keptGlasses.version, keptGlasses.well],
      set: {
        glass: sql`excluded.glass`,
        closed: sql`excluded.closed`,
        dependsOn: sql`excluded.depends_on`,
        turnsOn: sql`excluded.turns_on`,
        sequence: sql`excluded.sequence`,
        model: sql`excluded.model`,
      },
      setWhere: sql`${keptGlasses.sequence} <= excluded.sequence`,
    })
}

export async function dropKept(db: Database, keys: readonly VersionKey[]): Promise<void> {
  for await (const chunk of inChunks(keys))
    await db.delete(keptGlasses).where(sql`(${keptGlasses.drink}, ${keptGlasses.version}) in (${pairs(chunk)})`)
}

/** Takes away what is of wells that are no longer there. */
export async function dropOtherWells(db: Database, wells: readonly string[]): Promise<void> {
  await db.delete(keptGlasses).where(wells.length > 0 ? notInArray(keptGlasses.well, [...wells]) : undefined)
}

export async function loadDocuments(
  db: Database,
  keys: readonly VersionKey[],
): Promise<(VersionKey & { document: DrinkDocument })[]> {
  const all: (VersionKey & { document: DrinkDocument })[] = []
  for await (const chunk of inChunks(keys)) {
    const rows = await db
      .select({ drink: versions.drink, version: versions.number, document: versions.document })
      .from(versions)
      .where(sql`(${versions.drink}, ${versions.number}) in (${pairs(chunk)})`)
    all.push(...rows)
  }
  return all
}

type What = (typeof keptUpTo.$inferSelect)['what']

export async function loadUpTo(db: Database, what: What): Promise<{ sequence: number; madeWith: string } | undefined> {
  const [row] = await db.select().from(keptUpTo).where(eq(keptUpTo.what, what))
  return row
}

export async function saveUpTo(db: Database, what: What, sequence: number, madeWith: string): Promise<void> {
  const row = { what, sequence, madeWith }
  await db.insert(keptUpTo).values(row).onConflictDoUpdate({ target: keptUpTo.what, set: row })
}
