/** What is in the drinks of the menu as they are made tonight, at any well: which an edition cannot know. */

import { clockOf, nightOf } from '@conch/core/calendar'
import { allergensOf, pouredIn, resolveDrink } from '@conch/core/drink'
import type { Allergen } from '@conch/core/house'
import { standsAt } from '@conch/core/tonight'
import { closeHouse } from '../../access/seal.ts'
import type { Database } from '../../database/index.ts'
import { baseOf, type HeldHouse, outsIn, partFor, toBook } from '../../held/index.ts'
import { eveningOf } from './showTonight.ts'

export interface InTonight {
  /** No well can serve it. */
  isOff: boolean
  /** Somewhere it is made otherwise than the edition says: by a choice, or by the next candidate of a slot. */
  isOtherwise: boolean
  allergens: Allergen[]
  /** An allergen on the shelf was changed since anybody looked at what is sealed in it. */
  isUnsure: boolean
}

/** Of every poured drink, by its slug; as whoever may not open what is sealed may know it. */
export async function inDrinksTonight(db: Database, held: HeldHouse, now: Date): Promise<Map<string, InTonight>> {
  const { settings, wells, slots } = baseOf(held)
  const night = nightOf(now, clockOf(settings))
  const { poured, choices, documents, book: stands } = await eveningOf(db, held, night)
  const part = partFor(held, pouredIn(documents, slots))
  const book = { ...toBook(closeHouse(part, held.onShelf()), now), outAt: outsIn(held, part.ingredients) }
  return new Map(
    poured.map((p) => {
      const at = wells.map(({ slug: well }) => ({ well, ...standsAt(p, choices, stands, well) }))
      const served = at.filter(({ state }) => state === 'made' || state === 'instead')
      const made = served.flatMap(({ well, state, choice }) => {
        const instead = choices.find((c) => c.id === choice)?.document
        const resolved = resolveDrink(state === 'instead' && instead ? instead : p.document, book, well)
        return resolved.ok ? [resolved.drink] : []
      })
      const slugs = made.flatMap((d) => d.pours.flatMap((pour) => pour.ingredient?.slug ?? []))
      return [
        p.drink,
        {
          isOff: served.length === 0,
          isOtherwise: served.some(({ state, swapped }) => state === 'instead' || swapped.length > 0),
          allergens: [...new Set(made.flatMap((d) => allergensOf(d)))],
          isUnsure: slugs.some((slug) => book.mixes?.[slug]?.isAllergenUnsure),
        },
      ]
    }),
  )
}
