/** Somebody says that something is out or low, and that it is back. */

import type { OutMarkSaid } from '@conch/contract'
import type { OutDocument, OutEnd } from '@conch/core/schema/tonight'
import { type Actor, stampOf } from '../../access/actor.ts'
import { invalid, Refusal } from '../../errors/Refusal.ts'
import { happenedSince, type Write } from '../../events/index.ts'
import { baseOf, type HeldHouse, heldHouse } from '../../held/index.ts'
import { findOut, insertOut, insertOutEnd } from '../../stores/tonight.ts'
import { endChoicesWithout } from './choiceUseCases.ts'
import { nameOfOut, saidOut } from './sayOut.ts'

const isSamePlace = (a: OutDocument, b: OutDocument) => a.kind === b.kind && a.of === b.of && a.well === b.well

/**
 * Says that something is out, or low. Said again it is said already; said otherwise of the same thing at the same place, the
 * newer word counts.
 * @throws Refusal `invalid` for what the house does not have
 */
export async function markOut(request: OutDocument, actor: Actor, write: Write): Promise<OutMarkSaid> {
  const { db, now, record, late } = write
  const held = await heldHouse(db)
  const { wells } = baseOf(held)
  if (request.well !== null && !wells.some((w) => w.slug === request.well))
    throw invalid('well', `there is no well “${request.well}”`)
  const name = nameOfOut(request, held)
  if (name === undefined) throw invalid('of', `there is no ${WORDS[request.kind]} “${request.of}”`)
  const before = held.tonight.outs.find((o) => isSamePlace(o.document, request))
  if (before?.document.level === request.level) return saidOut(before, held)
  if (late) await assertNewest(request, name, held, write)
  if (before) await end(before.id, 'newer', actor, write)
  const stamp = stampOf(actor, now())
  const document = late ? { ...request, saidAt: late.at.toISOString() } : request
  const id = await insertOut(db, { document, ...stamp })
  record({
    kind: 'out',
    subject: `${request.kind}/${request.of}`,
    verb: request.level === 'out' ? 'ranOut' : 'ranLow',
    detail: { name, well: request.well ?? WHOLE_HOUSE },
    kept: [['outs', id]],
  })
  const { savedBy, savedAt } = stamp
  const ingredient = request.kind === 'lot' ? (held.openLot(Number(request.of))?.ingredient ?? null) : null
  return saidOut({ id, document, ingredient, savedBy, savedAt: savedAt.toISOString() }, held)
}

/**
 * A device that stood alone did not hear what was said since: the newer word stands.
 * @throws Refusal `conflict` where something was said of it since, or a new lot of it was made
 */
async function assertNewest(request: OutDocument, name: string, held: HeldHouse, { db, late }: Write): Promise<void> {
  if (!late) return
  if (late.sees !== undefined) {
    if (late.sees > held.at.sequence)
      throw new Refusal('conflict', 'this device knew another state of the house, which has been restored since')
    const subject = `${request.kind}/${request.of}`
    const since = await happenedSince(db, { kind: 'out', subject, after: late.sees })
    const newer = since.find(({ detail }) => detail.well === undefined || detail.well === (request.well ?? WHOLE_HOUSE))
    if (newer) {
      const words = newer.verb === 'ended' ? 'is back' : newer.verb === 'ranLow' ? 'runs low' : 'is out'
      throw new Refusal(
        'conflict',
        `${newer.personName} said something newer: ${name} ${words}; look at what is out now`,
      )
    }
  }
  const lot = held
    .openLotsOf(request.of)
    .find(({ document: { madeAt } }) => madeAt !== undefined && new Date(madeAt) > late.at)
  if (request.kind === 'ingredient' && lot)
    throw new Refusal('conflict', `lot ${lot.id} of ${name} was made since; look at what is out now`)
}

const WHOLE_HOUSE = 'the whole house'
const WORDS = { ingredient: 'bottle or mix', lot: 'lot that is open', fruit: 'fruit', glass: 'glass' } as const

async function end(id: number, why: OutEnd['why'], actor: Actor, { db, now }: Write): Promise<number | undefined> {
  return insertOutEnd(db, { out: id, at: now(), by: actor.name, byId: actor.id ?? null, event: { why } })
}

/**
 * It is back, or was a wrong tap. Only this word is ended: a newer one about the same thing stands.
 * @throws Refusal `notFound`; `conflict` where it ended before, saying how
 */
export async function endOut(
  id: number,
  why: 'back' | 'mistake',
  actor: Actor,
  write: Write,
): Promise<{ ended: number }> {
  const { db, record } = write
  const held = await heldHouse(db)
  const found = await findOut(db, id)
  if (!found) throw new Refusal('notFound', `nobody said anything under the number ${id}`)
  if (found.end)
    throw new Refusal('conflict', `${found.end.by} was faster: ${ENDED[found.end.why]}; look at what is out now`)
  const row = await end(id, why, actor, write)
  if (row === undefined) throw new Error('bug: what had not ended could not be ended')
  const { kind, of, well } = found.document
  record({
    kind: 'out',
    subject: `${kind}/${of}`,
    verb: 'ended',
    detail: { name: nameOfOut(found.document, held) ?? of, well: well ?? WHOLE_HOUSE, why },
    kept: [['out_ends', row]],
  })
  await endChoicesWithout(new Set([id]), actor, write)
  return { ended: id }
}

const ENDED: Record<OutEnd['why'], string> = {
  back: 'it is back',
  mistake: 'it was a wrong tap',
  newer: 'something newer was said of it',
  lot: 'a new lot of it was made',
}

/** A new lot was made of something: whatever said that it is out, or low, ends. */
export async function endOutsOf(ingredient: string, actor: Actor, write: Write): Promise<void> {
  const { db, record } = write
  const held = await heldHouse(db)
  const ended = new Set<number>()
  for (const { id, document, ingredient: lotOf } of held.tonight.outs) {
    const isOfIt = (document.kind === 'ingredient' && document.of === ingredient) || lotOf === ingredient
    if (!isOfIt) continue
    const row = await end(id, 'lot', actor, write)
    if (row === undefined) continue
    const detail = { name: nameOfOut(document, held) ?? document.of, why: 'a new lot' }
    record({
      kind: 'out',
      subject: `${document.kind}/${document.of}`,
      verb: 'ended',
      detail,
      kept: [['out_ends', row]],
    })
    ended.add(id)
  }
  await endChoicesWithout(ended, actor, write)
}
