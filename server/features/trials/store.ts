import type {
  CalibrationDocument,
  IceKind,
  StoredCalibration,
  Trial,
  TrialDocument,
  TrialEvent,
} from '@conch/core/cold'
import { asc, desc, eq, inArray } from 'drizzle-orm'
import type { Database } from '../../database/index.ts'
import { calibrations, trialEvents, trials } from '../../database/schema.ts'

/** The newest trials, oldest of them first, with what was said of each. */
export async function loadTrials(db: Database, most: number): Promise<Trial[]> {
  const rows = await db.select().from(trials).orderBy(desc(trials.id)).limit(most)
  return withEvents(db, rows.reverse())
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

export async function insertTrial(
  db: Database,
  row: { well: string; station: string; madeOn: string; document: TrialDocument; savedBy: string; savedAt: Date },
): Promise<number> {
  const [made] = await db.insert(trials).values(row).returning({ id: trials.id })
  if (!made) throw new Error('bug: a trial was not stored')
  return made.id
}

export async function insertTrialEvent(
  db: Database,
  row: { trial: number; at: Date; by: string; event: TrialEvent },
): Promise<void> {
  await db.insert(trialEvents).values(row)
}

/** Every calibration, oldest first. */
export async function loadCalibrations(db: Database): Promise<StoredCalibration[]> {
  const rows = await db.select().from(calibrations).orderBy(asc(calibrations.id))
  return rows.map((r) => ({ ...r, savedAt: r.savedAt.toISOString() }))
}

export async function insertCalibration(
  db: Database,
  row: {
    well: string
    station: string
    ice: IceKind
    document: CalibrationDocument
    savedBy: string
    savedAt: Date
  },
): Promise<StoredCalibration> {
  const [made] = await db.insert(calibrations).values(row).returning()
  if (!made) throw new Error('bug: a calibration was not stored')
  return { ...made, savedAt: made.savedAt.toISOString() }
}
