import type { StoredCalibration, Trial } from '@conch/core/calibration'
import { and, asc, desc, eq, inArray } from 'drizzle-orm'
import type { Database } from '../database/index.ts'
import { calibrations, stations, trialEvents, trials } from '../database/schema.ts'

/** The newest trials, oldest of them first, with what was said of each. */
export async function loadTrials(db: Database, most: number): Promise<Trial[]> {
  const rows = await db.select().from(trials).orderBy(desc(trials.id)).limit(most)
  return withEvents(db, rows.reverse())
}

/** These trials, oldest first, as far as they are there. */
export async function loadTrialsOf(db: Database, ids: readonly number[]): Promise<Trial[]> {
  const rows = await db
    .select()
    .from(trials)
    .where(inArray(trials.id, [...ids]))
    .orderBy(asc(trials.id))
  return withEvents(db, rows)
}

export async function findTrial(db: Database, id: number): Promise<Trial | undefined> {
  const rows = await db.select().from(trials).where(eq(trials.id, id))
  return (await withEvents(db, rows))[0]
}

async function withEvents(db: Database, rows: (typeof trials.$inferSelect)[]): Promise<Trial[]> {
  if (rows.length === 0) return []
  const ids = rows.map((r) => r.id)
  const events = await db.select().from(trialEvents).where(inArray(trialEvents.trial, ids)).orderBy(asc(trialEvents.id))
  return rows.map(({ id, well, station, madeOn, savedBy, document }) => ({
    id,
    well,
    station,
    on: madeOn,
    by: savedBy,
    document,
    events: events.filter((e) => e.trial === id).map(({ at, by, event }) => ({ at: at.toISOString(), by, event })),
  }))
}

/** The station that trials point at, whatever becomes of it. */
async function stationId(db: Database, well: string, station: string): Promise<number | null> {
  const [row] = await db
    .select({ id: stations.id })
    .from(stations)
    .where(and(eq(stations.well, well), eq(stations.slug, station)))
  return row?.id ?? null
}

export async function insertTrial(db: Database, row: typeof trials.$inferInsert): Promise<number> {
  const values = { ...row, stationId: row.stationId ?? (await stationId(db, row.well, row.station)) }
  const [made] = await db.insert(trials).values(values).returning({ id: trials.id })
  if (!made) throw new Error('bug: a trial was not stored')
  return made.id
}

/** @returns the number of what was said, not of the trial */
export async function insertTrialEvent(db: Database, row: typeof trialEvents.$inferInsert): Promise<number> {
  const [made] = await db.insert(trialEvents).values(row).returning({ id: trialEvents.id })
  if (!made) throw new Error('bug: what was said of a trial was not stored')
  return made.id
}

type CalibrationRow = typeof calibrations.$inferSelect
const toCalibration = ({ savedById: _, stationId: __, ...row }: CalibrationRow): StoredCalibration => ({
  ...row,
  savedAt: row.savedAt.toISOString(),
})

/** Every calibration, oldest first. */
export async function loadCalibrations(db: Database): Promise<StoredCalibration[]> {
  return (await db.select().from(calibrations).orderBy(asc(calibrations.id))).map(toCalibration)
}

export async function insertCalibration(
  db: Database,
  row: typeof calibrations.$inferInsert,
): Promise<StoredCalibration> {
  const values = { ...row, stationId: row.stationId ?? (await stationId(db, row.well, row.station)) }
  const [made] = await db.insert(calibrations).values(values).returning()
  if (!made) throw new Error('bug: a calibration was not stored')
  return toCalibration(made)
}
