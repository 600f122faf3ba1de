/** Lots in the orders that a list can have, each put in order once. */

import type { HeldHouse } from '../../held/index.ts'
import type { LotLine } from '../../stores/lots.ts'

export type LotSort = 'number' | 'useBy' | 'name'

export class LotOrder {
  private readonly byNumber: readonly LotLine[]
  private readonly sorted = new Map<LotSort, { names: number; lines: readonly LotLine[] }>()

  /** @param byNumber oldest first */
  constructor(byNumber: readonly LotLine[]) {
    this.byNumber = byNumber
  }

  /** What is equal stays with the newest first; left out: the newest first. */
  by(sort: LotSort | undefined, isDown: boolean, held: HeldHouse): readonly LotLine[] {
    if (sort === undefined) return this.of('number', held).toReversed()
    return isDown ? this.of(sort, held).toReversed() : this.of(sort, held)
  }

  private of(sort: LotSort, held: HeldHouse): readonly LotLine[] {
    if (sort === 'number') return this.byNumber
    // Only an order by name follows from more than the lots.
    const names = sort === 'name' ? held.lastOf(['ingredient', 'bottles']) : 0
    const before = this.sorted.get(sort)
    if (before?.names === names) return before.lines
    const newest = this.byNumber.toReversed()
    const lines = sort === 'useBy' ? newest.sort(byUseBy) : inPlaces(newest, placesByName(held, newest))
    this.sorted.set(sort, { names, lines })
    return lines
  }
}

/** After every day. */
const NEVER = '9999'
const compare = (a: string, b: string) => (a < b ? -1 : a > b ? 1 : 0)
const byUseBy = (a: LotLine, b: LotLine) => compare(a.useBy ?? NEVER, b.useBy ?? NEVER)

const inPlaces = (lines: LotLine[], places: ReadonlyMap<string, number>) =>
  lines.sort((a, b) => (places.get(a.ingredient) ?? 0) - (places.get(b.ingredient) ?? 0))

const BY_NAME = new Intl.Collator('en', { sensitivity: 'base', numeric: true })

/** The place of what some lots are of, by name. */
function placesByName(held: HeldHouse, some: readonly LotLine[]): Map<string, number> {
  const slugs = [...new Set(some.map((lot) => lot.ingredient))]
  const name = (slug: string) => held.ingredient(slug)?.name ?? slug
  slugs.sort((a, b) => BY_NAME.compare(name(a), name(b)) || compare(a, b))
  return new Map(slugs.map((slug, n) => [slug, n]))
}
