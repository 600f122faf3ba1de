import type { Flight } from '@conch/core/style'
import { asc } from 'drizzle-orm'
import type { Database } from '../../database/index.ts'
import { flights } from '../../database/schema.ts'

/** Every flight, oldest first. */
export async function loadFlights(db: Database): Promise<Flight[]> {
  const rows = await db.select().from(flights).orderBy(asc(flights.id))
  return rows.map((r) => ({ id: r.id, on: r.tastedOn, by: r.savedBy, document: r.document }))
}

export async function insertFlight(db: Database, flight: typeof flights.$inferInsert): Promise<number> {
  const [row] = await db.insert(flights).values(flight).returning({ id: flights.id })
  if (!row) throw new Error('bug: a flight was not stored')
  return row.id
}
