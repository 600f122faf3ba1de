import type { AddFlight } from '@conch/contract'
import type { Flight } from '@conch/core/palate'
import { type Actor, stampOf } from '../../access/actor.ts'
import { invalid } from '../../errors/Refusal.ts'
import type { Write } from '../../events/index.ts'
import { baseOf, heldHouse } from '../../held/index.ts'
import { insertFlight } from '../../stores/flights.ts'
import { dayAsked } from '../house/index.ts'

/**
 * Writes down what somebody tasted, for ever; a later word of the same taster counts instead.
 * @throws Refusal naming a bottle that is not there or has no alcohol
 */
export async function addFlight(request: AddFlight, actor: Actor, { db: tx, now, record }: Write): Promise<Flight> {
  const held = await heldHouse(tx)
  const { day: on } = dayAsked('on', request.on, baseOf(held).settings, now())
  request.document.scores.forEach(({ ingredient }, i) => {
    if (!held.ingredient(ingredient))
      throw invalid(`document.scores.${i}.ingredient`, `there is no ingredient “${ingredient}”`)
  })
  const { document } = request
  const id = await insertFlight(tx, { tastedOn: on, document, ...stampOf(actor, now()) })
  const bottles = document.scores.map((s) => s.ingredient)
  record({ kind: 'flight', subject: String(id), verb: 'tasted', detail: { bottles }, kept: [['flights', id]] })
  return { id, on, by: actor.name, document }
}
