/** What a list of the shelf shows, and in which order. */

import { keysOf } from '../schema/keysOf.ts'
import { INGREDIENT_KINDS } from '../schema/lists.ts'
import { pricePerThousand } from './figures.ts'
import type { Figure, Ingredient } from './schema.ts'

export const SHELF_SHOWN = {
  all: 'everything',
  mixes: 'made here',
  homework: 'only assumed: homework',
  low: 'low or out',
  priceless: 'without a price',
  ...INGREDIENT_KINDS,
} as const
export type ShelfShown = keyof typeof SHELF_SHOWN

export const SHELF_SORTS = {
  shelf: 'kind',
  name: 'name',
  abvPct: 'strength',
  sugarGPer100Ml: 'sugar',
  acidGPer100Ml: 'acid',
  price: 'price a litre',
} as const
export type ShelfSort = keyof typeof SHELF_SORTS

/** A figure that somebody should measure: assumed, and not nothing. */
export const isHomework = (figure: Figure | undefined) =>
  figure?.basis === 'unknown' || (figure?.basis === 'assumed' && figure.value !== 0)
export const hasHomework = (i: Ingredient) => !i.recipe && Object.values(i.figures).some(isHomework)

function isShown(i: Ingredient, shown: ShelfShown): boolean {
  switch (shown) {
    case 'all':
      return true
    case 'mixes':
      return i.kind !== 'blend' && (i.recipe !== undefined || i.closed !== undefined)
    case 'homework':
      return hasHomework(i)
    case 'low':
      return i.stock === 'low' || i.stock === 'out' || i.stock === 'discontinued'
    case 'priceless':
      return !i.recipe && pricePerThousand(i) === undefined
    default:
      return i.kind === shown
  }
}

/** What of the shelf is shown, in an order; by their names where it says nothing else. */
export function shelfList(
  ingredients: readonly Ingredient[],
  { shown, sort, isDown }: { shown: ShelfShown; sort: ShelfSort; isDown: boolean },
): Ingredient[] {
  const kinds = keysOf(INGREDIENT_KINDS)
  const key = (i: Ingredient): number | string => {
    if (sort === 'shelf') return kinds.indexOf(i.kind)
    if (sort === 'name') return i.name.toLowerCase()
    if (sort === 'price') return pricePerThousand(i) ?? -1
    return i.figures[sort].value
  }
  const order = (a: Ingredient, b: Ingredient) => {
    const [x, y] = [key(a), key(b)]
    return typeof x === 'string' || typeof y === 'string' ? BY_NAME.compare(String(x), String(y)) : x - y
  }
  const sorted = ingredients.filter((i) => isShown(i, shown)).toSorted(order)
  return isDown ? sorted.reverse() : sorted
}

const BY_NAME = new Intl.Collator('en', { sensitivity: 'base', numeric: true })
