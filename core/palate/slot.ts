import type { HouseBook, Ingredient } from '../house/index.ts'
import { bySlug, isThereAt } from '../house/index.ts'
import type { Slot } from '../schema/palate.ts'

/** What a slot pours at a well tonight. */
export interface SlotPour {
  ingredient: Ingredient
  /** The pick that should be poured and is not there. */
  insteadOf: Ingredient | undefined
  /** Not even this one is in stock. */
  isOut: boolean
}

/**
 * The bottle that a slot pours: the well's pick, else the house pick, else the first candidate in
 * rank that is in stock and not out tonight; when none is, the pick all the same, marked as out.
 * @returns undefined when the house has none of them any more
 */
export function resolveSlot(
  slot: Slot,
  book: Pick<HouseBook, 'ingredients' | 'outAt'>,
  wellSlug?: string,
): SlotPour | undefined {
  const wellPick = wellSlug === undefined ? undefined : slot.pickByWell?.[wellSlug]
  const order = [...new Set([wellPick ?? slot.pick, slot.pick, ...slot.candidates.map((c) => c.ingredient)])]
  const known = order.flatMap((slug) => bySlug(book.ingredients, slug) ?? [])
  const [pick] = known
  if (!pick) return undefined
  const poured = known.find((i) => isThereAt(i, book, wellSlug))
  if (!poured) return { ingredient: pick, insteadOf: undefined, isOut: true }
  return { ingredient: poured, insteadOf: poured === pick ? undefined : pick, isOut: false }
}

/** Something about a slot that the house does not bear out, and where. */
export interface SlotProblem {
  path: (string | number)[]
  message: string
}

/** What is wrong with a slot in this house: bottles that are not there, or that have no alcohol. */
export function slotProblems(slot: Slot, book: Pick<HouseBook, 'ingredients' | 'wells'>): SlotProblem[] {
  const problems: SlotProblem[] = []
  const check = (path: (string | number)[], slug: string, needsStrength: boolean) => {
    const ingredient = bySlug(book.ingredients, slug)
    if (!ingredient) problems.push({ path, message: `there is no ingredient “${slug}”` })
    else if (needsStrength && !(ingredient.figures.abvPct.value > 0) && !ingredient.recipe)
      problems.push({ path, message: `${ingredient.name} has no strength; a slot is for what has alcohol` })
  }
  for (const [i, c] of slot.candidates.entries()) check(['candidates', i, 'ingredient'], c.ingredient, true)
  for (const [i, r] of slot.refused.entries()) check(['refused', i, 'ingredient'], r.ingredient, false)
  for (const well of Object.keys(slot.pickByWell ?? {})) {
    if (!bySlug(book.wells, well)) problems.push({ path: ['pickByWell', well], message: `there is no well “${well}”` })
  }
  return problems
}

/** The candidates whose strength leaves the slot's band, for a word in the margin. */
export function outsideBand(slot: Slot, book: Pick<HouseBook, 'ingredients'>): Ingredient[] {
  return slot.candidates.flatMap((c) => {
    const i = bySlug(book.ingredients, c.ingredient)
    const abv = i?.figures.abvPct.value ?? slot.abvPct.low
    return i && (abv < slot.abvPct.low - 1e-9 || abv > slot.abvPct.high + 1e-9) ? [i] : []
  })
}
