import type { Edition, EditionSummary } from '@conch/contract'
import { asc, desc, eq, sql } from 'drizzle-orm'
import type { Database } from '../database/index.ts'
import { editions } from '../database/schema.ts'

const summaryColumns = {
  number: editions.number,
  name: editions.name,
  note: editions.note,
  publishedBy: editions.publishedBy,
  publishedAt: editions.publishedAt,
  listing: editions.listing,
}

function toSummary<R extends { listing: { drink: string }[]; publishedAt: Date }>({ listing, ...row }: R) {
  return {
    ...row,
    publishedAt: row.publishedAt.toISOString(),
    drinkCount: listing.length,
  }
}

/** Newest first, without their locks. */
export async function loadEditionSummaries(db: Database): Promise<EditionSummary[]> {
  const rows = await db.select(summaryColumns).from(editions).orderBy(desc(editions.number))
  return rows.map((r) => toSummary(r))
}

export async function findSummary(db: Database, number: number): Promise<EditionSummary | undefined> {
  const [row] = await db.select(summaryColumns).from(editions).where(eq(editions.number, number))
  return row && toSummary(row)
}

export async function findEdition(db: Database, number: number): Promise<Edition | undefined> {
  const [row] = await db
    .select({ ...summaryColumns, lock: editions.lock })
    .from(editions)
    .where(eq(editions.number, number))
  return row && toSummary(row)
}

/** The newest edition's number and which version of each drink it pours. */
export async function findNewestListing(
  db: Database,
): Promise<{ number: number; versions: Map<string, number> } | undefined> {
  const [row] = await db
    .select({ number: editions.number, listing: editions.listing })
    .from(editions)
    .orderBy(desc(editions.number))
    .limit(1)
  return row && { number: row.number, versions: new Map(row.listing.map((l) => [l.drink, l.version])) }
}

/** @param lock as its text, which goes in as it is, however large; and what is in it */
export async function insertEdition(
  db: Database,
  {
    lock,
    ...row
  }: Omit<typeof editions.$inferInsert, 'lock' | 'listing'> & {
    lock: { text: string; listing: typeof editions.$inferInsert.listing }
  },
): Promise<void> {
  await db.insert(editions).values({ ...row, lock: sql`${lock.text}::jsonb`, listing: lock.listing })
}

export async function newestEditionNumber(db: Database): Promise<number> {
  const [row] = await db.select({ number: editions.number }).from(editions).orderBy(desc(editions.number)).limit(1)
  return row?.number ?? 0
}

/** The edition that was published from a revision of the plan. */
export async function findEditionOfPlan(db: Database, planRevision: number) {
  const { number, name, note, publishedBy, publishedById } = editions
  const [row] = await db
    .select({ number, name, note, publishedBy, publishedById })
    .from(editions)
    .where(eq(editions.planRevision, planRevision))
  return row
}

/** Which version of a drink each edition pours, the oldest edition first; null: none. */
export async function loadPouredIn(
  db: Database,
  drink: string,
): Promise<{ edition: number; name: string; publishedAt: string; version: number | null }[]> {
  const version = sql<number | null>`(
    select (l ->> 'version')::int from jsonb_array_elements(${editions.listing}) l where l ->> 'drink' = ${drink} limit 1
  )`
  const rows = await db
    .select({ edition: editions.number, name: editions.name, publishedAt: editions.publishedAt, version })
    .from(editions)
    .orderBy(asc(editions.number))
  return rows.map((row) => ({ ...row, publishedAt: row.publishedAt.toISOString() }))
}

/** Every edition with the drinks that it pours, newest first; without its lock. */
export async function loadListings(
  db: Database,
): Promise<{ number: number; name: string; listing: { drink: string; version: number }[] }[]> {
  const { number, name, listing } = summaryColumns
  return db.select({ number, name, listing }).from(editions).orderBy(desc(editions.number))
}
