import type { DrinkDocument, DrinkResult } from '@conch/core/drink'
import type { HouseBook, Well } from '@conch/core/house'

/** What every part of a spec sheet needs. */
export interface SpecSheetProps {
  document: DrinkDocument
  book: HouseBook
  well: Well
  result: DrinkResult | undefined
  /** The version it comes from: what is easily swapped is asked about. */
  older?: DrinkDocument | undefined
  /** Every other version of it: a pour that differs from all of them is told of. */
  siblings?: readonly DrinkDocument[] | undefined
  /** Whose sheet it is, for what is asked elsewhere about one of its lines. */
  asked?: { drink: string; version: number | 'draft' | undefined } | undefined
  /** Left out: the sheet is only read. */
  onChange?: ((document: DrinkDocument) => void) | undefined
}
