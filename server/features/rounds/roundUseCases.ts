/** Rounds that were finished, put aside half made, and taken up again. */

import type { Rounds, SaidRound, SayRound } from '@conch/contract'
import { clockOf, nightOf } from '@conch/core/calendar'
import type { RoundEnd } from '@conch/core/service'
import { type Actor, stampOf } from '../../access/actor.ts'
import type { Database } from '../../database/index.ts'
import { invalid, Refusal } from '../../errors/Refusal.ts'
import type { Write } from '../../events/index.ts'
import { baseOf, heldHouse } from '../../held/index.ts'
import { loadVersionsOf } from '../../stores/drinks.ts'
import { findMade, findRound, insertRound, insertRoundEnd, loadRounds, type StoredRound } from '../../stores/rounds.ts'

const DAY_MS = 86_400_000
/** A tablet lists no more of the night. */
const MOST_LISTED = 30

const said = ({ id, document, savedBy, savedAt }: StoredRound): SaidRound => ({ id, ...document, savedBy, savedAt })

/** When it was made: where the house heard of it later, as the device said. */
const madeAt = ({ document, savedAt }: StoredRound) => new Date(document.saidAt ?? savedAt)

/** What is put aside, and what was finished this night. */
export async function getRounds(db: Database, now: Date): Promise<Rounds> {
  const clock = clockOf(baseOf(await heldHouse(db)).settings)
  const night = nightOf(now, clock)
  const { parked, made } = await loadRounds(db, new Date(now.getTime() - DAY_MS))
  const tonight = made.filter((round) => nightOf(madeAt(round), clock) === night)
  return {
    parked: parked.map(said),
    made: tonight.slice(0, MOST_LISTED).map(said),
    glasses: tonight.reduce((sum, { document }) => sum + glassesOf(document), 0),
  }
}

const glassesOf = ({ round }: Pick<SayRound, 'round'>) => round.loads.reduce((sum, l) => sum + l.glasses, 0)

/** “2 × Tide Clerk, Green Pilot” */
const wordsOf = ({ round }: Pick<SayRound, 'round'>) =>
  round.loads.map((l) => `${l.glasses > 1 ? `${l.glasses} × ` : ''}${l.document.name}`).join(', ')

/**
 * Writes down a round, finished or put aside. Finished twice it is one: the first counts.
 * @throws Refusal `invalid` for a well or a version that the house does not have
 */
export async function sayRound(request: SayRound, actor: Actor, write: Write): Promise<SaidRound> {
  const { db, now, record, late } = write
  const { round, state } = request
  const { wells } = baseOf(await heldHouse(db))
  if (!wells.some((w) => w.slug === round.well)) throw invalid('round.well', `there is no well “${round.well}”`)
  const versions = await loadVersionsOf(
    db,
    round.loads.map(({ drink, version }) => ({ drink, version })),
  )
  round.loads.forEach(({ drink, version }, i) => {
    if (!versions.has(`${drink} ${version}`))
      throw invalid(`round.loads.${i}.version`, `there is no version ${version} of “${drink}”`)
  })
  const before = await findMade(db, round.key)
  if (before) {
    if (state === 'made') return said(before)
    throw new Refusal('conflict', `this round was finished by ${before.savedBy} meanwhile`)
  }
  const stamp = stampOf(actor, now())
  const document = late ? { ...request, saidAt: late.at.toISOString() } : request
  const id = await insertRound(db, { key: round.key, state, document, ...stamp })
  if (id === undefined) {
    // Two tablets finished it at once.
    const first = await findMade(db, round.key)
    if (first) return said(first)
    throw new Error('bug: a round was neither stored nor there')
  }
  record({
    kind: 'round',
    subject: String(id),
    verb: state === 'made' ? 'made' : 'parked',
    detail: { name: wordsOf(request), well: round.well, glasses: glassesOf(request) },
    kept: [['rounds', id]],
  })
  return { id, ...document, savedBy: stamp.savedBy, savedAt: stamp.savedAt.toISOString() }
}

const ENDED: Record<RoundEnd['why'], string> = { takenUp: 'took it up', dropped: 'threw it away' }

/**
 * Somebody takes up a round that was put aside, or throws it away: one does, whoever asks at the same time.
 * @throws Refusal `notFound`; `conflict` where somebody was faster, saying who
 */
export async function endRound(
  id: number,
  { why }: RoundEnd,
  actor: Actor,
  { db, now, record }: Write,
): Promise<SaidRound> {
  const found = await findRound(db, id)
  if (found?.document.state !== 'parked') throw new Refusal('notFound', `no round ${id} was put aside`)
  const faster = (end: { why: RoundEnd['why']; by: string }) =>
    new Refusal('conflict', `${end.by} was faster and ${ENDED[end.why]}`)
  if (found.end) throw faster(found.end)
  const row = await insertRoundEnd(db, { round: id, at: now(), by: actor.name, byId: actor.id ?? null, event: { why } })
  if (row === undefined) {
    const again = await findRound(db, id)
    throw faster(again?.end ?? { why, by: 'somebody' })
  }
  record({
    kind: 'round',
    subject: String(id),
    verb: why === 'takenUp' ? 'takenUp' : 'discarded',
    detail: { name: wordsOf(found.document), well: found.document.round.well },
    kept: [['round_ends', row]],
  })
  return said(found)
}
