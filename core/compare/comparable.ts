import { type DrinkDocument, type PourPart, type Problem, pourName, pourPartOf, resolveDrink } from '../drink/index.ts'
import { bySlug, type HouseBook, type IngredientKind } from '../house/index.ts'
import { amountText, isCounted } from '../measure/index.ts'

/** A pour as it is held against those of other versions. */
export interface ComparableLine {
  part: PourPart
  /** The same for the same thing: a bottle, a mix, or a slot. */
  what: string
  kind: IngredientKind | undefined
  name: string
  volumeMl: number
  into: DrinkDocument['pours'][number]['into']
  /** As somebody wrote it; undefined once it was counted otherwise. */
  written: string | undefined
  /** Poured by counting, and how many: "2 dashes". */
  counted: string | undefined
  /** In this much of it, g. */
  alcoholG: number
  sugarG: number
  acidG: number
}

/** One version among those that are compared. */
export interface Comparable {
  key: string
  name: string
  serves: number
  lines: ComparableLine[]
}

export type MadeComparable = { ok: true; side: Comparable } | { ok: false; problems: Problem[] }

/**
 * The pours of a version at a well, each with what it brings. Nothing is normalised yet.
 * @param wellSlug by which a slot is filled
 */
export function comparableOf(key: string, document: DrinkDocument, book: HouseBook, wellSlug: string): MadeComparable {
  const resolved = resolveDrink(document, book, wellSlug)
  if (!resolved.ok) return resolved
  const lines = resolved.drink.pours.map((poured, i): ComparableLine => {
    const line = document.pours[i] as DrinkDocument['pours'][number]
    const { ingredient, volumeMl, liquid, into } = poured
    const { amount } = line
    const plain = amount && amountText({ value: amount.value, unit: amount.unit })
    return {
      part: pourPartOf(ingredient, line.figures),
      what: line.slot ?? line.ingredient ?? `own ${poured.name}`,
      kind: ingredient?.kind,
      name: line.slot || line.ingredient ? pourName(line, book) : poured.name,
      volumeMl,
      into,
      written: amount?.asWritten ?? plain,
      counted: amount && isCounted(amount.unit) ? plain : undefined,
      alcoholG: liquid.ethanolG,
      sugarG: liquid.sugarG,
      acidG: liquid.acidG,
    }
  })
  return { ok: true, side: { key, name: document.name, serves: document.serves, lines } }
}

/** What a side pours altogether, ml. */
export const pouredMlOf = ({ lines }: Pick<Comparable, 'lines'>): number =>
  lines.reduce((sum, l) => sum + l.volumeMl, 0)

/** A line with so many times as much in it. */
export function timesLine(line: ComparableLine, factor: number): ComparableLine {
  return {
    ...line,
    volumeMl: line.volumeMl * factor,
    alcoholG: line.alcoholG * factor,
    sugarG: line.sugarG * factor,
    acidG: line.acidG * factor,
    written: factor === 1 ? line.written : undefined,
    counted: factor === 1 ? line.counted : undefined,
  }
}

/** The slot that a bottle which is gone may fill, if the house has one. */
export function slotInsteadOf(what: string, { ingredients, slots = [] }: HouseBook) {
  const bottle = bySlug(ingredients, what)
  if (bottle?.stock !== 'discontinued') return undefined
  return slots.find((s) => s.candidates.some((c) => c.ingredient === what))
}
