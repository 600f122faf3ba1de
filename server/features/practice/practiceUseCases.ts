/** What somebody practised is written down; they see their own, and whoever leads a shift how far the others are. */

import { mayDo, type PracticePeople, type SaidPractice, type SayPractice } from '@conch/contract'
import { answersIn, newestSittings, rememberedBy, sittingsIn } from '@conch/core/learn'
import { type Actor, stampOf } from '../../access/actor.ts'
import type { Database } from '../../database/index.ts'
import { invalid, Refusal } from '../../errors/Refusal.ts'
import type { Write } from '../../events/index.ts'
import { baseOf, heldHouse } from '../../held/index.ts'
import { insertPractice, loadPractices, type StoredPractice } from '../../stores/practices.ts'

const said = ({ id, document, savedAt }: StoredPractice): SaidPractice => ({ id, document, savedAt })

export async function getOwnPractice(db: Database, { id }: Actor): Promise<SaidPractice[]> {
  if (id === undefined) throw new Refusal('nobody', 'nobody in particular practised anything')
  return (await loadPractices(db, id)).map(said)
}

/**
 * Everybody who makes drinks here, by name: nobody is ranked, and whoever has not begun stands among them. What each remembers
 * is replayed from the same answers that they see themselves.
 */
export async function getPracticeOfPeople(db: Database): Promise<PracticePeople> {
  const { people } = await heldHouse(db)
  const practising = people.filter((p) => p.isActive && mayDo(p.role, 'practise'))
  const all = await Promise.all(
    practising.map(async ({ id, name }) => {
      const own = await loadPractices(db, id)
      const remembered = [...rememberedBy(answersIn(own))].map(([item, { dueAt, stabilityDays }]) => ({
        item,
        dueAt,
        stabilityDays,
      }))
      const sittings = newestSittings(sittingsIn(own)).map(({ at, pours }) => ({ at, pours: [...pours] }))
      return { person: id, name, remembered, sittings }
    }),
  )
  return all.sort((a, b) => a.name.localeCompare(b.name, 'en'))
}

/** A device's clock may be so far ahead, ms. */
const AHEAD_MS = 86_400_000

/** @throws Refusal `invalid` for a well that is not there, or an answer that is still to come */
export async function sayPractice(request: SayPractice, actor: Actor, write: Write): Promise<SaidPractice> {
  const { db, now, record, late } = write
  if (request.kind === 'drill') {
    const { wells } = baseOf(await heldHouse(db))
    if (!wells.some((w) => w.slug === request.well)) throw invalid('well', `there is no well “${request.well}”`)
    // An answer of next week would never be asked again.
    const latest = now().getTime() + AHEAD_MS
    const early = request.answers.findIndex((a) => Date.parse(a.at) > latest)
    if (early >= 0) throw invalid(`answers.${early}.at`, 'is still to come: look at the clock of this device')
  }
  const stamp = stampOf(actor, now())
  const document = late ? { ...request, saidAt: late.at.toISOString() } : request
  const id = await insertPractice(db, { document, ...stamp })
  record({
    kind: 'practice',
    subject: String(id),
    verb: request.kind === 'drill' ? 'answered' : 'measured',
    // How it went is for them and their lead: the list of what was done does not say it.
    detail: { name: request.kind === 'drill' ? 'a drill' : 'test pours' },
    kept: [['practices', id]],
  })
  return { id, document, savedAt: stamp.savedAt.toISOString() }
}
