import type { DrinkDocument } from '@conch/core/drink'
import type { HouseBook, Well } from '@conch/core/house'

/** What every part of a drink's bench is about. */
export interface BenchProps {
  document: DrinkDocument
  book: HouseBook
  well: Well
  mayEdit: boolean
  /** Brings a spec into the drink's draft, with a word on what it is. */
  use: (document: DrinkDocument, note: string) => void
}
