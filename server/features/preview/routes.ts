import { previewSchema } from '@conch/contract'
import { type DrinkDocument, glassFor, pouredIn } from '@conch/core/drink'
import { drinkDocumentSchema } from '@conch/core/drink/schema'
import type { HouseBook } from '@conch/core/house'
import { settingsSchema } from '@conch/core/house/schema'
import type { Actor } from '../../access/actor.ts'
import { closeHouse, mayOpen } from '../../access/seal.ts'
import { Refusal } from '../../errors/Refusal.ts'
import { baseOf, type HeldHouse, partFor, toBook } from '../../held/index.ts'
import { route } from '../../http/route.ts'

/** Whoever is not signed in brings all figures along: nothing of a house is in what they get. */
const NO_HOUSE: HouseBook = {
  settings: settingsSchema.parse({ name: 'no house' }),
  wells: [],
  ingredients: [],
  glasses: [],
}

/** The part of the house that a drink needs, as one who asks may see it. */
function bookOf(held: HeldHouse, document: DrinkDocument, { role }: Actor, now: Date): HouseBook {
  const part = partFor(held, pouredIn([document], baseOf(held).slots))
  return toBook(mayOpen(role) ? part : closeHouse(part, held.onShelf()), now)
}

export const previewRoutes = [
  route({
    method: 'post',
    path: '/api/preview',
    summary: 'Compute a drink: every number of every stage, nothing is saved',
    act: 'preview',
    body: drinkDocumentSchema,
    response: previewSchema,
    handle: async ({ body, actor, services }) => {
      const held = actor.role === 'nobody' ? undefined : await services.held.now()
      const glass = glassFor(body, held ? bookOf(held, body, actor, services.now()) : NO_HOUSE)
      if (!glass.ok) {
        const fields = glass.problems.map((p) => ({ field: p.path.join('.'), message: p.message }))
        throw new Refusal('cannotCompute', `${fields[0]?.field}: ${fields[0]?.message}`, { fields })
      }
      return { well: glass.result.well, result: glass.result, consequences: glass.consequences }
    },
  }),
]
