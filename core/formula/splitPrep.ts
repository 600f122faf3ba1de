import type { Recipe } from '../schema/recipe.ts'
import type { Mix } from './resolveMix.ts'
import type { SplitPrepDocument } from './splitSchema.ts'

const ALPHABET = Array.from({ length: 26 }, (_, n) => String.fromCharCode(65 + n))

/**
 * Letters that say nothing of what they stand for, by the component's slug. A component keeps the letter that it was given;
 * of those without one the largest amount takes the first that is free.
 */
export function lettersOf(recipe: Recipe): Map<string, { slug: string; name: string }> {
  const taken = new Set(recipe.components.flatMap((c) => c.letter ?? []))
  const free = ALPHABET.filter((l) => !taken.has(l))
  const order = recipe.components.map((c, i) => ({ ...c, i })).sort((a, b) => b.amount - a.amount || a.i - b.i)
  return new Map(
    order.map(({ ingredient, letter }) => {
      const name = letter ?? free.shift() ?? '?'
      return [ingredient, { slug: `part-${name.toLowerCase()}`, name }]
    }),
  )
}

/**
 * A sealed recipe whose letters stay with their bottles: what was in it before keeps its letter, what is new takes one that
 * the recipe before did not use.
 */
export function withLetters(recipe: Recipe, before: Recipe | undefined): Recipe {
  const was = before ? lettersOf(before) : new Map<string, { name: string }>()
  const used = new Set([...was.values()].map((l) => l.name))
  const free = ALPHABET.filter((l) => !used.has(l))
  const order = recipe.components.map((c, i) => ({ ...c, i })).sort((a, b) => b.amount - a.amount || a.i - b.i)
  const letters = new Map(
    order.map((c) => [c.ingredient, was.get(c.ingredient)?.name ?? free.shift() ?? [...used][0] ?? 'A']),
  )
  return { ...recipe, components: recipe.components.map((c) => ({ ...c, letter: letters.get(c.ingredient) })) }
}

export type DealResult = { ok: true; document: SplitPrepDocument } | { ok: false; reason: string }

/**
 * Deals the components of a batch to two people so that neither sheet has them all: heaviest to the
 * first, the next two to the second, and so on, which also leaves neither with the larger half's order.
 * Whoever once weighed one half is not dealt what was missing from it.
 * @param earlier batches of the same mix, dealt before
 */
export function dealSheets(
  mix: Mix,
  factor: number,
  hands: readonly [string, string],
  earlier: readonly SplitPrepDocument[] = [],
): DealResult {
  if (hands[0] === hands[1]) return { ok: false, reason: `${hands[0]} would weigh both halves; name two people` }
  if (mix.parts.length < 2) return { ok: false, reason: 'it has one component only: there is nothing to split' }
  const byWeight = [...mix.parts].sort(
    (a, b) => b.massG - a.massG || a.ingredient.slug.localeCompare(b.ingredient.slug),
  )
  const isFirst = (n: number) => n % 4 === 0 || n % 4 === 3
  const sheets = hands.map((hand, h) => ({
    hand,
    lines: byWeight
      .filter((_, n) => isFirst(n) === (h === 0))
      .map((p) => ({
        ingredient: p.ingredient.slug,
        name: p.name,
        massG: Number((p.massG * factor).toFixed(1)),
      })),
  }))
  const all = byWeight.map((p) => p.ingredient.slug)
  for (const { hand, lines } of sheets) {
    const seen = new Set([
      ...lines.map((l) => l.ingredient),
      ...earlier.flatMap((e) =>
        e.sheets.filter((s) => s.hand === hand).flatMap((s) => s.lines.map((l) => l.ingredient)),
      ),
    ])
    if (all.every((slug) => seen.has(slug)))
      return {
        ok: false,
        reason: `${hand} has weighed the other half before, and would know all of it; change the two about`,
      }
  }
  return { ok: true, document: { factor, sheets } }
}
