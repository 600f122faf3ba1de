/** What is out at a well, from what people said: a bottle, a lot, a fruit, a glass. */

import { type Glass, type HouseBook, type Ingredient, isWeighed, type OutHere, toSlug } from '../house/index.ts'
import type { OutDocument } from '../schema/tonight.ts'

/** What somebody said is out or low, and still is. */
export interface OutMark extends OutDocument {
  id: number
  /** Of a lot: what it is a lot of. */
  ingredient?: string | undefined
}

/** As much of the shelf as outs are about. */
export interface OutShelf {
  ingredients: readonly Pick<Ingredient, 'slug' | 'name' | 'kind' | 'fruit' | 'stock'>[]
  glasses: readonly Pick<Glass, 'slug'>[]
  /** Those that are neither used up nor thrown away. */
  lots: readonly { id: number; ingredient: string }[]
}

const isAt = (mark: OutMark, well: string) => mark.well === null || mark.well === well

/** A fruit as it is marked: its name as one word. */
export const fruitSlug = (name: string): string => toSlug(name)

/**
 * The mark by which something to pour is out at a well, if it is: it was said outright; or every lot of it that was there is
 * out; or the fruit that it is pressed from is, and no lot of it is left. What it is made of does not make it so: a mix that
 * stands in its bottle is there, whatever ran out since, and a sealed one would be told apart by it.
 */
export function outMarkOf(
  { slug, name, kind, fruit }: OutShelf['ingredients'][number],
  well: string,
  marks: readonly OutMark[],
  lots: OutShelf['lots'],
): OutMark | undefined {
  const here = marks.filter((m) => m.level === 'out' && isAt(m, well))
  const said = here.find((m) => m.kind === 'ingredient' && m.of === slug)
  if (said) return said
  const lotMarks = here.filter((m) => m.kind === 'lot' && m.ingredient === slug)
  const left = lots.filter((l) => l.ingredient === slug && !lotMarks.some((m) => m.of === String(l.id)))
  if (left.length > 0) return undefined
  if (lotMarks[0]) return lotMarks[0]
  const own = isWeighed(kind) ? name : fruit?.name
  return own === undefined ? undefined : here.find((m) => m.kind === 'fruit' && m.of === fruitSlug(own))
}

/** What is out at each well, by slug; what the back bar calls out is so at all of them and is not among these. */
export function outsAt(
  marks: readonly OutMark[],
  { ingredients, glasses, lots }: OutShelf,
  wells: readonly { slug: string }[],
): NonNullable<HouseBook['outAt']> {
  return Object.fromEntries(
    wells.map(({ slug: well }): [string, OutHere] => [
      well,
      {
        ingredients: ingredients.filter((i) => outMarkOf(i, well, marks, lots)).map((i) => i.slug),
        glasses: glasses
          .filter((g) => marks.some((m) => m.kind === 'glass' && m.level === 'out' && m.of === g.slug && isAt(m, well)))
          .map((g) => g.slug),
        fruits: marks.filter((m) => m.kind === 'fruit' && m.level === 'out' && isAt(m, well)).map((m) => m.of),
      },
    ]),
  )
}
