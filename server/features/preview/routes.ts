import { previewSchema } from '@conch/contract'
import { glassFor } from '@conch/core/drink'
import { drinkDocumentSchema } from '@conch/core/drink/schema'
import type { HouseBook } from '@conch/core/house'
import { settingsSchema } from '@conch/core/house/schema'
import { closeHouse, mayOpen } from '../../access/seal.ts'
import { Refusal } from '../../errors/Refusal.ts'
import { route } from '../../http/route.ts'
import { loadHouse, toBook } from '../house/store.ts'

/** Before a house is set up a drink can still bring all its own figures. */
const NO_HOUSE: HouseBook = {
  settings: settingsSchema.parse({ name: 'no house yet' }),
  wells: [],
  ingredients: [],
  glasses: [],
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
      // Nobody brings all its figures along: nothing of the house can be asked out of it.
      const whole = actor.role === 'nobody' ? undefined : await loadHouse(services.database.db)
      const house = whole && !mayOpen(actor.role) ? closeHouse(whole, services.now()) : whole
      const glass = glassFor(body, house ? toBook(house, services.now()) : NO_HOUSE)
      if (!glass.ok) {
        const fields = glass.problems.map((p) => ({ field: p.path.join('.'), message: p.message }))
        throw new Refusal('cannotCompute', `${fields[0]?.field}: ${fields[0]?.message}`, { fields })
      }
      return { well: glass.result.well, result: glass.result, consequences: glass.consequences }
    },
  }),
]
