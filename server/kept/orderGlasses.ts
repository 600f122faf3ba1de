/** What a thread needs to compute the glasses of some versions, and the rows that are kept of its answer. */

import { clockOf, nightOf } from '@conch/core/calendar'
import { MODEL_VERSION } from '@conch/core/cold'
import type { DrinkDocument } from '@conch/core/drink'
import { lotsTurnOn } from '@conch/core/lots'
import type { KeptGlass } from '@conch/core/menu'
import { closeHouse } from '../access/seal.ts'
import { baseOf, type HeldHouse, outsIn, partOf, toBook } from '../held/index.ts'
import type { ComputedGlasses, GlassOrder } from './computeGlasses.ts'
import type { KeptRow, VersionKey } from './glassStore.ts'
import { shelfOf, topicsOf } from './topics.ts'

/**
 * @param found versions with their documents
 * @returns the order, and what makes rows of its answer: as of the house at this moment
 */
export function orderGlasses(
  found: readonly (VersionKey & { document: DrinkDocument })[],
  held: HeldHouse,
  at: Date,
): { order: GlassOrder; rowsOf: (computed: readonly ComputedGlasses[]) => KeptRow[] } {
  const { sequence } = held.at
  const { wells, settings } = baseOf(held)
  const night = nightOf(at, clockOf(settings))
  const shelved = found.map((f) => ({ ...f, ...shelfOf(f.document, held) }))
  const part = partOf(held, new Set(shelved.flatMap((s) => [...s.slugs])))
  const outAt = outsIn(held, part.ingredients)
  const order = {
    book: { ...toBook(part, at, undefined), outAt },
    ...(shelved.some((s) => s.hasSealed)
      ? { closed: { ...toBook(closeHouse(part, held.onShelf()), at, undefined), outAt } }
      : {}),
    documents: shelved.map(({ document, hasSealed }) => ({ document, hasSealed })),
  }
  const lots = shelved.map(({ slugs }) => [...slugs].flatMap((slug) => held.openLotsOf(slug).slice(-1)))
  const rowsOf = (computed: readonly ComputedGlasses[]) =>
    shelved.flatMap(({ drink, version, document, slugs }, i): KeptRow[] =>
      wells.map(({ slug: well }) => ({
        drink,
        version,
        well,
        ...(computed[i]?.[well] as { glass: KeptGlass; closed: KeptGlass | null }),
        dependsOn: topicsOf(document, slugs, well),
        turnsOn: lotsTurnOn(lots[i] ?? [], night) ?? null,
        sequence,
        model: MODEL_VERSION,
      })),
    )
  return { order, rowsOf }
}
