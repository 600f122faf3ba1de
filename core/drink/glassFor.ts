import { bySlug, type Figure, type HouseBook, type Ingredient, nameApart } from '../house/index.ts'
import { computeDrink } from './computeDrink.ts'
import type { Consequence } from './consequence.ts'
import { consequencesOf } from './consequences.ts'
import type { Problem } from './problem.ts'
import type { DrinkResult } from './report.ts'
import { type ResolvedDrink, resolveDrink } from './resolve.ts'
import type { DrinkDocument } from './schema.ts'
import { MEASURES, type MeasureName } from './standard.ts'

/** A drink on a well: the glass and what follows from it, or why it cannot be computed. */
export type GlassFor =
  | { ok: true; drink: ResolvedDrink; result: DrinkResult; consequences: Consequence[] }
  | { ok: false; problems: Problem[] }

/** The one way from a drink document to its glass, for every screen, the server and an edition's lock. */
export function glassFor(document: DrinkDocument, book: HouseBook, wellSlug?: string): GlassFor {
  const resolution = resolveDrink(document, book, wellSlug)
  if (!resolution.ok) return resolution
  const computed = computeDrink(resolution.drink)
  if (!computed.ok) return computed
  const { result } = computed
  const consequences = consequencesOf(document, resolution.drink, result, book)
  return {
    ok: true,
    drink: resolution.drink,
    result,
    consequences: [...consequences, ...whatLotsDid(document, resolution.drink, book, result)],
  }
}

const MOVED_BY_A_LOT: MeasureName[] = ['strengthPct', 'sweetGPer100Ml', 'sourGPer100Ml', 'dilutionPct']

/** What a lot that is not as its recipe does to this drink: the glass is made once more, by the recipe. */
function whatLotsDid(document: DrinkDocument, drink: ResolvedDrink, book: HouseBook, now: DrinkResult): Consequence[] {
  const slugs = [...new Set(drink.pours.flatMap((p) => p.ingredient?.slug ?? []))]
  return slugs.flatMap((slug): Consequence[] => {
    const facts = book.mixes?.[slug]
    const ingredient = bySlug(book.ingredients, slug)
    if (!facts?.theory || !facts.lot || !ingredient) return []
    const written = resolveDrink(document, withTheory(book, ingredient), drink.well?.slug)
    if (!written.ok) return []
    const byRecipe = computeDrink(written.drink)
    if (!byRecipe.ok) return []
    const was = byRecipe.result.predictions
    const moved = MOVED_BY_A_LOT.flatMap((name) => {
      const { label, unit, digits } = MEASURES[name]
      const difference = (now.predictions[name]?.value ?? 0) - (was[name]?.value ?? 0)
      const shown = Math.abs(difference).toFixed(digits)
      return Number(shown) === 0 ? [] : [`${label} ${difference < 0 ? '−' : '+'}${shown} ${unit}`]
    })
    if (moved.length === 0) return []
    const text = `${nameApart(ingredient, book.ingredients)}, lot ${facts.lot.id}, ${againstRecipe(facts.brix, facts.theoryBrix)}: ${moved.join(', ')}`
    return [{ weight: 'note', code: 'lot', text, isSafety: false }]
  })
}

function againstRecipe(brix: number | undefined, byRecipe: number | undefined): string {
  if (brix === undefined || byRecipe === undefined || Math.abs(brix - byRecipe) < 0.05) return 'is not as its recipe'
  const by = Math.abs(brix - byRecipe).toFixed(1)
  return `is ${by} °Bx ${brix > byRecipe ? 'sweeter' : 'less sweet'} than its recipe`
}

/** The house with one thing as its recipe, not its lot, has it. */
function withTheory(book: HouseBook, ingredient: Ingredient): HouseBook {
  const theory = book.mixes?.[ingredient.slug]?.theory
  const figure = (value: number | undefined): Figure => ({ value: value ?? 0, basis: 'recipe' })
  const figures = {
    abvPct: figure(theory?.abvPct),
    sugarGPer100Ml: figure(theory?.sugarGPer100Ml),
    acidGPer100Ml: figure(theory?.acidGPer100Ml),
    fatGPer100Ml: figure(theory?.fatGPer100Ml),
    otherGPer100Ml: figure(theory?.otherGPer100Ml),
  }
  return { ...book, ingredients: book.ingredients.map((i) => (i.slug === ingredient.slug ? { ...i, figures } : i)) }
}
