import type { DrinkDocument, PourLine } from '@conch/core/drink'
import { type HouseBook, nameIn } from '@conch/core/house'
import { type Amount, amountText, type LineFlag } from '@conch/core/measure'
import * as edits from './edits.ts'

/** What a person should look at on a pour, and what was likely meant: taken with one press. */
export function PourFlag({
  flag,
  index,
  pour,
  document,
  book,
  onChange,
}: {
  flag: LineFlag
  index: number
  pour: PourLine
  document: DrinkDocument
  book: HouseBook
  onChange: ((next: DrinkDocument) => void) | undefined
}) {
  const { likely, likelyIngredient } = flag
  const withWords = (amount: Amount): Amount => ({ ...amount, asWritten: pour.amount?.asWritten ?? amountText(amount) })
  return (
    <span className="order-last flex w-full items-center gap-2 pl-[11.500rem] text-sm text-mind max-sm:flex-wrap max-sm:pl-0">
      <span className="max-sm:basis-full">▲ {flag.text}</span>
      {likely && onChange && (
        <button
          type="button"
          className="act min-h-8 text-sm text-ink"
          onClick={() => onChange(edits.changePour(document, index, { amount: withWords(likely) }))}
        >
          take {amountText(likely)}
        </button>
      )}
      {likelyIngredient && onChange && (
        <button
          type="button"
          className="act min-h-8 text-sm text-ink"
          onClick={() => onChange(edits.pourInstead(document, index, { ingredient: likelyIngredient }))}
        >
          take {nameIn(book.ingredients, likelyIngredient)}
        </button>
      )}
    </span>
  )
}
