import type { HouseBook } from '../house/index.ts'
import { computeDrink } from './computeDrink.ts'
import { type Consequence, consequencesOf } from './consequences.ts'
import type { DrinkResult } from './report.ts'
import { type Problem, type ResolvedDrink, resolveDrink } from './resolve.ts'
import type { DrinkDocument } from './schema.ts'

/** A drink on a well: the glass and what follows from it, or why it cannot be computed. */
export type GlassFor =
  | { ok: true; drink: ResolvedDrink; result: DrinkResult; consequences: Consequence[] }
  | { ok: false; problems: Problem[] }

/** The one way from a drink document to its glass, for every screen, the server and an edition's lock. */
export function glassFor(document: DrinkDocument, book: HouseBook, wellSlug?: string): GlassFor {
  const resolution = resolveDrink(document, book, wellSlug)
  if (!resolution.ok) return resolution
  const result = computeDrink(resolution.drink)
  return {
    ok: true,
    drink: resolution.drink,
    result,
    consequences: consequencesOf(document, resolution.drink, result, book),
  }
}
