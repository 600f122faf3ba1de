import type { IcePortion } from '../cold/index.ts'
import type { DrinkDocument } from '../drink/index.ts'
import type { HouseBook } from '../house/index.ts'
import { fillWithIce } from './glassFit.ts'

/**
 * The drink with its ice "to the line" and "half the glass" in the grams that it takes now: what is written so stays so when
 * pours, method or glass change. Ice for all wells is filled at the first of them that has none of its own; of two kinds
 * that are to reach the line only the last follows. Grams stay as they are where no ice fills the glass so far.
 * @returns the same document where nothing is filled, or nothing changes
 */
export function followFill(document: DrinkDocument, book: HouseBook): DrinkDocument {
  const shared = book.wells.find((w) => !document.serveIceByWell?.[w.slug])?.slug
  let followed = document
  if (shared !== undefined) followed = filled(followed, book, shared, (d) => d.serveIce, withSharedIce)
  for (const well of Object.keys(document.serveIceByWell ?? {}))
    if (book.wells.some((w) => w.slug === well))
      followed = filled(
        followed,
        book,
        well,
        (d) => d.serveIceByWell?.[well] ?? [],
        (d, ice) => ({ ...d, serveIceByWell: { ...d.serveIceByWell, [well]: ice } }),
      )
  return followed
}

const withSharedIce = (document: DrinkDocument, serveIce: IcePortion[]): DrinkDocument => ({ ...document, serveIce })

/** Half a glass first, whatever follows; then what comes to the line. */
function filled(
  document: DrinkDocument,
  book: HouseBook,
  well: string,
  iceOf: (document: DrinkDocument) => IcePortion[],
  withIce: (document: DrinkDocument, ice: IcePortion[]) => DrinkDocument,
): DrinkDocument {
  const ice = iceOf(document)
  const toHalf = ice.filter((p) => p.fill === 'halfGlass')
  const toLine = ice.filter((p) => p.fill === 'toLine').slice(-1)
  let next = document
  for (const { kind, massG, fill } of [...toHalf, ...toLine]) {
    const found = fill && fillWithIce(next, book, well, kind, fill)
    if (found?.ok && found.massG !== massG)
      next = withIce(
        next,
        iceOf(next).map((p) => (p.kind === kind ? { ...p, massG: found.massG } : p)),
      )
  }
  return next
}
