import type { IcePortion } from '../cold/index.ts'
import type { DrinkDocument } from '../drink/index.ts'
import type { HouseBook } from '../house/index.ts'
import { fillWithIce } from './glassFit.ts'

/**
 * The drink with its ice "to the line" and "half the glass" in the grams that it takes now: what is written so stays so when
 * pours, method or glass change. Ice for all wells is filled at the first of them that has none of its own. Grams stay as
 * they are where no ice fills the glass so far.
 * @returns the same document where nothing is filled, or nothing changes
 */
export function followFill(document: DrinkDocument, book: HouseBook): DrinkDocument {
  const { serveIce, serveIceByWell } = document
  const shared = book.wells.find((w) => !serveIceByWell?.[w.slug])?.slug
  let followed = document
  if (shared !== undefined && isFilled(serveIce))
    followed = { ...followed, serveIce: filledAt(document, book, shared, serveIce) }
  for (const [well, ice] of Object.entries(serveIceByWell ?? {}))
    if (isFilled(ice) && book.wells.some((w) => w.slug === well))
      followed = {
        ...followed,
        serveIceByWell: { ...followed.serveIceByWell, [well]: filledAt(document, book, well, ice) },
      }
  return JSON.stringify(followed) === JSON.stringify(document) ? document : followed
}

const isFilled = (ice: readonly IcePortion[]) => ice.some((p) => p.fill)

function filledAt(document: DrinkDocument, book: HouseBook, well: string, ice: readonly IcePortion[]): IcePortion[] {
  return ice.map((p) => {
    const filled = p.fill && fillWithIce(document, book, well, p.kind, p.fill)
    return filled?.ok ? { ...p, massG: filled.massG } : p
  })
}
