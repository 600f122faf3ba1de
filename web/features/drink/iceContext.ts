import type { IceFill, IceKind } from '@conch/core/cold'
import type { DrinkDocument } from '@conch/core/drink'
import type { HouseBook, Well } from '@conch/core/house'
import { type FilledIce, fillWithIce } from '@conch/core/means'
import type { IceContext } from '@conch/core/reading'

/** What is needed to read an amount of ice; to fill a glass with it, too, where it goes into one. */
export interface IceContextOf extends IceContext {
  fill?: (kind: IceKind, fill: IceFill) => FilledIce
}

/** For a drink at a well: in the tin only amounts, in the glass "to the line" as well. */
export function iceContextOf(
  document: DrinkDocument,
  book: HouseBook,
  well: Well,
  where: 'tin' | 'glass',
): IceContextOf {
  const context = { kit: book.settings.kit, scoops: well.scoops ?? [] }
  if (where === 'tin') return context
  return { ...context, fill: (kind, fill) => fillWithIce(document, book, well.slug, kind, fill) }
}
