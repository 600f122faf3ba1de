/** Somebody says that something is out or low, and that it is back. */

import type { OutMarkSaid } from '@conch/contract'
import { isWeighed } from '@conch/core/house'
import type { OutDocument, OutEnd } from '@conch/core/schema/tonight'
import { fruitSlug } from '@conch/core/tonight'
import { type Actor, stampOf } from '../../access/actor.ts'
import { invalid, Refusal } from '../../errors/Refusal.ts'
import type { Write } from '../../events/index.ts'
import { baseOf, type HeldHouse, heldHouse } from '../../held/index.ts'
import { findOut, insertOut, insertOutEnd, type StoredOut } from '../../stores/tonight.ts'

/** What a mark is about, as it is called; undefined where the house has no such thing. */
export function nameOfOut({ kind, of }: Pick<OutDocument, 'kind' | 'of'>, held: HeldHouse): string | undefined {
  if (kind === 'ingredient') return held.ingredient(of)?.name
  if (kind === 'glass') return baseOf(held).glasses.find((g) => g.slug === of)?.name
  if (kind === 'fruit') return fruitsOf(held).get(of)
  const lot = held.openLot(Number(of))
  return lot && `${lot.name}, lot ${lot.id}`
}

/** Every fruit that something is pressed from, or that is on the shelf itself: by its name as one word. */
export function fruitsOf(held: HeldHouse): Map<string, string> {
  const found = new Map<string, string>()
  for (const { kind, name, fruit } of held.allIngredients()) {
    if (fruit) found.set(fruitSlug(fruit.name), fruit.name)
    else if (isWeighed(kind)) found.set(fruitSlug(name), name)
  }
  return found
}

/** As it is told: with what it is called, today or when it was said. */
export function saidOut({ document, ingredient, ...mark }: StoredOut, held: HeldHouse): OutMarkSaid {
  const ofLot = ingredient === null ? undefined : held.ingredient(ingredient)?.name
  return {
    ...mark,
    ...document,
    name: nameOfOut(document, held) ?? (ofLot ? `${ofLot}, lot ${document.of}` : document.of),
    ...(ingredient === null ? {} : { ingredient }),
  }
}

const isSamePlace = (a: OutDocument, b: OutDocument) => a.kind === b.kind && a.of === b.of && a.well === b.well

/**
 * Says that something is out, or low. Said again it is said already; said otherwise of the same thing at the same place, the
 * newer word counts.
 * @throws Refusal `invalid` for what the house does not have
 */
export async function markOut(request: OutDocument, actor: Actor, write: Write): Promise<OutMarkSaid> {
  const { db, now, record } = write
  const held = await heldHouse(db)
  const { wells } = baseOf(held)
  if (request.well !== null && !wells.some((w) => w.slug === request.well))
    throw invalid('well', `there is no well “${request.well}”`)
  const name = nameOfOut(request, held)
  if (name === undefined) throw invalid('of', `there is no ${WORDS[request.kind]} “${request.of}”`)
  const before = held.tonight.outs.find((o) => isSamePlace(o.document, request))
  if (before?.document.level === request.level) return saidOut(before, held)
  if (before) await end(before.id, 'newer', actor, write)
  const stamp = stampOf(actor, now())
  const id = await insertOut(db, { document: request, ...stamp })
  record({
    kind: 'out',
    subject: `${request.kind}/${request.of}`,
    verb: request.level === 'out' ? 'ranOut' : 'ranLow',
    detail: { name, well: request.well ?? 'the whole house' },
    kept: [['outs', id]],
  })
  const { savedBy, savedAt } = stamp
  const ingredient = request.kind === 'lot' ? (held.openLot(Number(request.of))?.ingredient ?? null) : null
  return saidOut({ id, document: request, ingredient, savedBy, savedAt: savedAt.toISOString() }, held)
}

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
    detail: { name: nameOfOut(found.document, held) ?? of, well: well ?? 'the whole house', why },
    kept: [['out_ends', row]],
  })
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
  }
}
