import type { Ingredient } from '../house/index.ts'
import type { Lot } from './lotSchema.ts'

/** Juice from one fruit: the mean of the pressings and how far they spread. */
export interface FruitYield {
  mlPerFruit: number
  /** Standard deviation between pressings, ml per fruit; with fewer than two as assumed: one says nothing of others. */
  spreadMl: number
  pressings: number
  basis: 'measured' | 'assumed'
}

/** How far a fruit is off when nobody has pressed it: half as much again from one box to the next. */
const UNPRESSED_SPREAD_FRACTION = 0.25
const NEWEST_COUNTED = 20

/** What one fruit gives: by the newest pressings of this juice, else by what is typed; undefined for no fruit. */
export function fruitYieldOf(juice: Ingredient, lots: readonly Lot[]): FruitYield | undefined {
  const each = lots
    .filter((l) => l.ingredient === juice.slug && l.document.pressed)
    .sort((a, b) => b.id - a.id)
    .slice(0, NEWEST_COUNTED)
    .flatMap((l) => {
      const ml = l.events.flatMap((e) => (e.event.kind === 'measured' ? [e.event.measured.volumeMl] : [])).at(-1)
      return ml === undefined || !l.document.pressed ? [] : [ml / l.document.pressed.fruitCount]
    })
  if (each.length === 0) {
    if (!juice.fruit) return undefined
    const { mlPerFruit } = juice.fruit
    return { mlPerFruit, spreadMl: mlPerFruit * UNPRESSED_SPREAD_FRACTION, pressings: 0, basis: 'assumed' }
  }
  const mlPerFruit = each.reduce((sum, x) => sum + x, 0) / each.length
  const squares = each.reduce((sum, x) => sum + (x - mlPerFruit) ** 2, 0)
  const spreadMl = each.length > 1 ? Math.sqrt(squares / (each.length - 1)) : mlPerFruit * UNPRESSED_SPREAD_FRACTION
  return { mlPerFruit, spreadMl, pressings: each.length, basis: 'measured' }
}

/**
 * Fruit to buy for so much juice, so that a poor box still does: the mean less one spread.
 * @returns the count, and the count that the mean alone would give
 */
export function fruitFor(volumeMl: number, { mlPerFruit, spreadMl }: FruitYield): { safe: number; mean: number } {
  const poorMl = Math.max(mlPerFruit - spreadMl, mlPerFruit / 3)
  return { safe: Math.ceil(volumeMl / poorMl - 1e-9), mean: Math.ceil(volumeMl / mlPerFruit - 1e-9) }
}
