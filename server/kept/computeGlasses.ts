import { jobOf } from '../threads/index.ts'
/** Kept glasses of some versions at some wells; runs in a thread. */

import type { DrinkDocument } from '@conch/core/drink'
import type { HouseBook } from '@conch/core/house'
import { type KeptGlass, keptGlassOf } from '@conch/core/menu'

export interface GlassOrder {
  book: HouseBook
  /** As whoever may not open what is sealed has it; for those documents that need it. */
  closed?: HouseBook
  documents: { document: DrinkDocument; hasSealed: boolean }[]
}

/** At one well, by its slug; `closed` where it is another one for whoever may not open what is sealed. */
export type ComputedGlasses = Record<string, { glass: KeptGlass; closed: KeptGlass | null }>

export function computeGlasses({ book, closed, documents }: GlassOrder): ComputedGlasses[] {
  return documents.map(({ document, hasSealed }) =>
    Object.fromEntries(
      book.wells.map(({ slug }) => [
        slug,
        {
          glass: tried(document, book, slug),
          closed: closed && hasSealed ? tried(document, closed, slug) : null,
        },
      ]),
    ),
  )
}

/** One version of long ago that nothing can be made of keeps nobody else's from being made. */
function tried(document: DrinkDocument, book: HouseBook, well: string): KeptGlass {
  try {
    return keptGlassOf(document, book, well)
  } catch {
    return {
      name: document.name,
      stations: [],
      predictions: {},
      standard: document.standard,
      serves: document.serves,
      allergens: [],
      cautions: [],
      pressed: [],
      pours: [],
      problems: [{ path: [], message: 'cannot be computed' }],
    }
  }
}

export const KEPT_GLASSES = jobOf<typeof computeGlasses>('keptGlasses')
