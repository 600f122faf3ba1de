import { type StoredCalibration, type Trial, trialIceOf } from '@conch/core/calibration'
import { bySlug } from '@conch/core/house'
import { isExcluded, isSameStation, outdatedCalibrations } from '@conch/core/trials'
import { HOUSE, stampOf } from '../../access/actor.ts'
import type { Database } from '../../database/index.ts'
import { inWrite } from '../../events/index.ts'
import { baseOf } from '../../held/index.ts'
import type { Services } from '../../http/route.ts'
import { insertCalibration, loadCalibrations, loadTrialsOf } from '../../stores/trials.ts'
import { CALIBRATE } from './calibrate.ts'

/** The trials that a calibration was made of and that still count. */
async function trialsBehind(db: Database, { document }: StoredCalibration): Promise<Trial[]> {
  return (await loadTrialsOf(db, document.trials)).filter((t) => !isExcluded(t))
}

const idsOf = (trials: readonly Trial[]) => trials.map((t) => t.id).join(' ')

/**
 * Fits anew, with today's model of the ice, what was last fitted with an earlier one: from the same trials, written down as
 * the house's own doing. The earlier ones stay as history. Each once, whoever else does so at the same time; what cannot be
 * fitted stays uncalibrated.
 * @returns how many were fitted
 */
export async function refitOutdated({ database, now, work, held }: Services): Promise<number> {
  const outdated = outdatedCalibrations(await loadCalibrations(database.db))
  if (outdated.length === 0) return 0
  const { wells } = baseOf(await held.now())
  let fitted = 0
  for (const old of outdated) {
    const well = bySlug(wells, old.well)
    const station = bySlug(well?.stations ?? [], old.station)
    const trials = await trialsBehind(database.db, old)
    // A station whose method was changed since is another station.
    const isSame = trials.every((t) => t.document.method === station?.method && trialIceOf(t.document) === old.ice)
    if (!well || !station || !isSame) continue
    const made = await work.run(HOUSE.name, CALIBRATE, { trials, well, station, ice: old.ice })
    if (!made.ok) continue
    const isKept = await inWrite(database, { actor: HOUSE, now }, async ({ db: tx, record }) => {
      const stillOutdated = outdatedCalibrations(await loadCalibrations(tx)).some((c) => isSameStation(c, old))
      if (!stillOutdated || idsOf(await trialsBehind(tx, old)) !== idsOf(trials)) return false
      const { well: wellSlug, station: slug, ice } = old
      const row = { well: wellSlug, station: slug, ice, document: made.document, ...stampOf(HOUSE, now()) }
      const { id } = await insertCalibration(tx, row)
      const detail = { well: wellSlug, station: slug, ice, trials: made.document.trials, model: made.document.model }
      record({
        kind: 'station',
        subject: `${wellSlug}/${slug}`,
        verb: 'calibrated',
        detail,
        kept: [['calibrations', id]],
      })
      return true
    })
    if (isKept) fitted += 1
  }
  return fitted
}
