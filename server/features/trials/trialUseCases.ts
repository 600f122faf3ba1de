import type { AddTrial, CalibrateRequest, Trials } from '@conch/contract'
import type { StoredCalibration, Trial, TrialEvent } from '@conch/core/calibration'
import { type DrinkDocument, pouredIn } from '@conch/core/drink'
import { bySlug, type HouseBook } from '@conch/core/house'
import { calibrationFrom, isExcluded, stationTrials, writeTrial } from '@conch/core/trials'
import { type Actor, stampOf } from '../../access/actor.ts'
import { closeHouse, closeTrial, mayOpen } from '../../access/seal.ts'
import type { Database } from '../../database/index.ts'
import { invalid, Refusal } from '../../errors/Refusal.ts'
import type { Write } from '../../events/index.ts'
import { baseOf, type HeldHouse, heldHouse, partFor, toBook } from '../../held/index.ts'
import { findVersion } from '../../stores/drinks.ts'
import {
  findTrial,
  insertCalibration,
  insertTrial,
  insertTrialEvent,
  loadCalibrations,
  loadTrials,
} from '../../stores/trials.ts'
import { dayAsked } from '../house/index.ts'

/** As many as a page of them wants, and a calibration can be fitted to. */
export const MOST_TRIALS = 500

/** The newest trials and every calibration, as one who asks may see them. */
export async function listTrials(db: Database, actor: Actor): Promise<Trials> {
  const trials = await loadTrials(db, MOST_TRIALS)
  return {
    trials: mayOpen(actor.role) ? trials : trials.map(closeTrial),
    calibrations: await loadCalibrations(db),
  }
}

/**
 * Writes down a measured making, for ever: with its liquid, its gear and every temperature.
 * @throws Refusal naming the weight that cannot be
 */
export async function addTrial(request: AddTrial, actor: Actor, { db: tx, now, record }: Write): Promise<Trial> {
  const held = await heldHouse(tx)
  const { day: on } = dayAsked('on', request.on, baseOf(held).settings, now())
  const document = await madeIn(tx, request)
  const written = writeTrial(request, bookOf(held, document, now()), document)
  if (!written.ok) {
    const [first] = written.problems
    throw new Refusal('invalid', `${first?.field}: ${first?.message}`, { fields: written.problems })
  }
  const { well, station } = request
  const trialled = written.document
  const id = await insertTrial(tx, { well, station, madeOn: on, document: trialled, ...stampOf(actor, now()) })
  const detail = { well, station, durationS: trialled.durationS }
  record({ kind: 'trial', subject: String(id), verb: 'made', detail, kept: [['trials', id]] })
  const trial = { id, well, station, on, by: actor.name, document: trialled, events: [] }
  return mayOpen(actor.role) ? trial : closeTrial(trial)
}

/**
 * A trial is kept with the grams of its liquid, and stations are fitted to it: of what is sealed it starts from what
 * everybody may know, or a fit would tell the rest.
 */
function bookOf(held: HeldHouse, document: DrinkDocument | undefined, now: Date): HouseBook {
  const part = partFor(held, pouredIn(document ? [document] : [], baseOf(held).slots))
  return toBook(closeHouse(part, held.onShelf()), now)
}

async function madeIn(db: Database, { drink, version }: AddTrial) {
  if (drink === undefined) return undefined
  if (version === undefined) throw invalid('version', 'say which version of the drink was made')
  const found = await findVersion(db, drink, version)
  if (!found) throw invalid('version', `there is no version ${version} of “${drink}”`)
  return found.document
}

/** Leaves a trial out of calibrations, with a reason, or takes it in again. The trial itself stays as it is. */
export async function addTrialEvent(
  id: number,
  event: TrialEvent,
  actor: Actor,
  { db: tx, now, record }: Write,
): Promise<Trial> {
  const trial = await findTrial(tx, id)
  if (!trial) throw new Refusal('notFound', `there is no trial ${id}`)
  if (isExcluded(trial) === (event.kind === 'excluded'))
    throw new Refusal('conflict', `trial ${id} is ${event.kind} already`, { current: null })
  const row = await insertTrialEvent(tx, { trial: id, at: now(), by: actor.name, byId: actor.id ?? null, event })
  record({ kind: 'trial', subject: String(id), verb: event.kind, detail: { event }, kept: [['trial_events', row]] })
  const changed = await findTrial(tx, id)
  if (!changed) throw new Error('bug: a trial is gone')
  return mayOpen(actor.role) ? changed : closeTrial(changed)
}

/**
 * Fits a station with one ice to its trials and keeps the answer: from then on every drink follows it.
 * @throws Refusal when too few trials count
 */
export async function calibrateStation(
  request: CalibrateRequest,
  actor: Actor,
  { db: tx, now, record }: Write,
): Promise<StoredCalibration> {
  const { well: wellSlug, station: slug, ice, since } = request
  const { wells } = baseOf(await heldHouse(tx))
  const well = bySlug(wells, wellSlug)
  if (!well) throw invalid('well', `there is no well “${wellSlug}”`)
  const station = bySlug(well.stations, slug)
  if (!station) throw invalid('station', `the ${well.name} has no station “${slug}”`)
  const counted = stationTrials(await loadTrials(tx, MOST_TRIALS), { well: wellSlug, station: slug, ice }, since)
  const made = calibrationFrom(counted, well, station, ice)
  if (!made.ok) throw invalid(since ? 'since' : 'station', made.reason)
  const { document } = made
  const stored = await insertCalibration(tx, {
    well: wellSlug,
    station: slug,
    ice,
    document,
    ...stampOf(actor, now()),
  })
  const detail = { well: wellSlug, station: slug, ice, trials: document.trials }
  const subject = `${wellSlug}/${slug}`
  record({ kind: 'station', subject, verb: 'calibrated', detail, kept: [['calibrations', stored.id]] })
  return stored
}
