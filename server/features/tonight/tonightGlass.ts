/** What is in the glass of a drink that is made otherwise tonight. */

import { clockOf, nightOf } from '@conch/core/calendar'
import { type DrinkDocument, pouredIn } from '@conch/core/drink'
import { type KeptGlass, keptGlassOf } from '@conch/core/menu'
import { standsAt } from '@conch/core/tonight'
import { LRUCache } from 'lru-cache'
import { closeHouse } from '../../access/seal.ts'
import type { Database } from '../../database/index.ts'
import { baseOf, type HeldHouse, outsIn, partFor, toBook } from '../../held/index.ts'
import { choicesOf, eveningOf } from './showTonight.ts'

/** As of one state of the house each; there are few, and each takes milliseconds. */
const made = new LRUCache<string, KeptGlass>({ max: 200 })

/**
 * The glasses of those drinks of the menu that are made otherwise tonight at a well, because somebody said how.
 * @param isOpen whether who asks may open what is sealed
 */
export async function glassesTonight(
  db: Database,
  held: HeldHouse,
  { well, isOpen, now }: { well: string; isOpen: boolean; now: Date },
): Promise<Map<string, { choice: number; document: DrinkDocument; glass: KeptGlass }>> {
  const found = new Map<string, { choice: number; document: DrinkDocument; glass: KeptGlass }>()
  const night = nightOf(now, clockOf(baseOf(held).settings))
  if (choicesOf(held, night).length === 0) return found
  const { poured, choices, book } = await eveningOf(db, held, night)
  for (const p of poured) {
    const { state, choice } = standsAt(p, choices, book, well)
    const document = choices.find((c) => c.id === choice)?.document
    if (state !== 'instead' || choice === undefined || !document) continue
    const key = `${held.id} ${held.at.sequence} ${choice} ${well} ${isOpen} ${night}`
    const glass = made.get(key) ?? glassOf(held, document, { well, isOpen, now })
    made.set(key, glass)
    found.set(p.drink, { choice, document, glass })
  }
  return found
}

function glassOf(
  held: HeldHouse,
  document: DrinkDocument,
  { well, isOpen, now }: { well: string; isOpen: boolean; now: Date },
): KeptGlass {
  const open = partFor(held, pouredIn([document], baseOf(held).slots))
  const part = isOpen ? open : closeHouse(open, held.onShelf())
  return keptGlassOf(document, { ...toBook(part, now), outAt: outsIn(held, open.ingredients) }, well)
}
