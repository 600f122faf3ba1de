import type { Flight } from '@conch/core/palate'
import { desc, sql } from 'drizzle-orm'
import type { Database } from '../database/index.ts'
import { flights } from '../database/schema.ts'

/** The newest flights, of one bottle where it is named, and how many there are. */
export async function loadNewestFlights(
  db: Database,
  { of, limit }: { of?: string | undefined; limit: number },
): Promise<{ total: number; flights: Flight[] }> {
  const which =
    of === undefined
      ? undefined
      : sql`${flights.document} -> 'scores' @> ${JSON.stringify([{ ingredient: of }])}::jsonb`
  const [count] = await db.select({ total: sql<number>`count(*)::int` }).from(flights).where(which)
  const rows = await db.select().from(flights).where(which).orderBy(desc(flights.id)).limit(limit)
  return {
    total: count?.total ?? 0,
    flights: rows.map((r) => ({ id: r.id, on: r.tastedOn, by: r.savedBy, document: r.document })),
  }
}

export async function insertFlight(db: Database, flight: typeof flights.$inferInsert): Promise<number> {
  const [row] = await db.insert(flights).values(flight).returning({ id: flights.id })
  if (!row) throw new Error('bug: a flight was not stored')
  return row.id
}
