/** What the back bar shows, and in which order. Plain functions. */

import { type Figure, INGREDIENT_KINDS, type Ingredient, type IngredientKind } from '@conch/core/house'
import { hasAllWords } from '../../ui/hasAllWords.ts'

export const SHOWN = {
  all: 'everything',
  homework: 'only assumed: homework',
  low: 'low or out',
  priceless: 'without a price',
  ...INGREDIENT_KINDS,
} as const
export type Shown = keyof typeof SHOWN

export const SORTS = {
  shelf: 'kind',
  name: 'name',
  abvPct: 'strength',
  sugarGPer100Ml: 'sugar',
  acidGPer100Ml: 'acid',
  price: 'price a litre',
} as const
export type Sort = keyof typeof SORTS

/** A figure that somebody should measure: assumed, and not nothing. */
export const isHomework = (figure: Figure | undefined) =>
  figure?.basis === 'unknown' || (figure?.basis === 'assumed' && figure.value !== 0)
export const hasHomework = (i: Ingredient) => !i.recipe && Object.values(i.figures).some(isHomework)

/** Price of a litre or a kilo, undefined when price or size is not known. */
export const pricePerThousand = (i: Ingredient) =>
  i.price !== undefined && i.size !== undefined && i.size > 0 ? (1000 * i.price) / i.size : undefined

function isShown(i: Ingredient, shown: Shown): boolean {
  switch (shown) {
    case 'all':
      return true
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

/** What is found by these words among what is shown; any name it had, its style and its note count. */
export function shelfView(
  ingredients: readonly Ingredient[],
  { wanted, shown, sort, isDown }: { wanted: string; shown: Shown; sort: Sort; isDown: boolean },
): Ingredient[] {
  const kinds = Object.keys(INGREDIENT_KINDS) as IngredientKind[]
  const key = (i: Ingredient): number | string => {
    if (sort === 'shelf') return kinds.indexOf(i.kind)
    if (sort === 'name') return i.name.toLowerCase()
    if (sort === 'price') return pricePerThousand(i) ?? -1
    return i.figures[sort].value
  }
  const found = ingredients.filter(
    (i) =>
      isShown(i, shown) &&
      hasAllWords([i.name, ...i.formerNames, i.style ?? '', i.colour ?? '', i.note ?? ''].join(' '), wanted),
  )
  const order = (a: Ingredient, b: Ingredient) => {
    const [x, y] = [key(a), key(b)]
    return typeof x === 'string' || typeof y === 'string' ? String(x).localeCompare(String(y)) : x - y
  }
  const sorted = found.toSorted(order)
  return isDown ? sorted.reverse() : sorted
}
