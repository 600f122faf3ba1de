/** Pages of lots, quick when there are many: those that are there are in memory, the others are read by an index. */

import type { Lot } from '@conch/core/formula'
import type { Database } from '../../database/index.ts'
import type { HeldHouse } from '../../held/index.ts'
import { countLots, loadHands, loadLots, type WhichLots } from '../../stores/lots.ts'

/** Things whose lots are looked for at once. */
const MOST_THINGS = 500

export interface LotsAsked {
  words: string
  of: string | undefined
  isOpen: boolean
  /** Left out: the newest first. */
  sort: 'number' | 'useBy' | 'name' | undefined
  isDown: boolean
  from: number
  limit: number
}

interface LotsFound {
  total: number
  rows: Lot[]
  /** Nothing has these words; these are near. */
  isNear: boolean
}

/** A page of the lots, gone ones too: found by what they are of, their number, or a hand. */
export async function findLotPage(db: Database, held: HeldHouse, asked: LotsAsked): Promise<LotsFound> {
  const { words } = asked
  const number = /^(?:lot\s*)?(\d{1,9})$/i.exec(words)?.[1]
  const found = words === '' ? undefined : held.ingredientFinder.find(words)
  const isMeant = (hand: string) => hand.toLowerCase().includes(words.toLowerCase())
  const hands = found ? (await loadHands(db)).filter(isMeant) : []
  const id = number === undefined ? undefined : Number(number)
  const either = found && { slugs: found.slugs.slice(0, MOST_THINGS), id, hands }
  const which = { either, of: asked.of }
  const page = asked.isOpen ? openPage(held, which, asked) : await storedPage(db, held, which, asked)
  const isNear = found?.isNear === true && id === undefined && hands.length === 0 && page.total > 0
  return { ...page, isNear }
}

function openPage(held: HeldHouse, { either, of }: WhichLots, { sort, isDown, from, limit }: LotsAsked) {
  const slugs = either && new Set(either.slugs)
  const isWanted = (lot: Lot) =>
    (of === undefined || lot.ingredient === of) &&
    (!either || slugs?.has(lot.ingredient) || lot.id === either.id || either.hands.includes(lot.madeBy))
  const byNumber = held.allOpenLots().filter(isWanted)
  // What is equal stays with the newest first.
  const newest = byNumber.toReversed()
  const place = sort === 'name' ? placesByName(held, newest) : undefined
  const orders = {
    number: () => byNumber,
    useBy: () => newest.sort((a, b) => compare(a.useBy ?? NEVER, b.useBy ?? NEVER)),
    name: () => newest.sort((a, b) => (place?.get(a.ingredient) ?? 0) - (place?.get(b.ingredient) ?? 0)),
  }
  const sorted = sort ? orders[sort]() : newest
  const all = sort && isDown ? sorted.toReversed() : sorted
  return { total: all.length, rows: all.slice(from, from + limit) }
}

/** After every day. */
const NEVER = '9999'
const compare = (a: string, b: string) => (a < b ? -1 : a > b ? 1 : 0)

/** The place of what some lots are of, by name. */
function placesByName(held: HeldHouse, some: readonly { ingredient: string }[]): Map<string, number> {
  const slugs = [...new Set(some.map((lot) => lot.ingredient))]
  return new Map(byName(held, slugs).map((slug, n) => [slug, n]))
}

const BY_NAME = new Intl.Collator('en', { sensitivity: 'base', numeric: true })
const byName = (held: HeldHouse, slugs: readonly string[]) =>
  slugs.toSorted(
    (a, b) => BY_NAME.compare(held.ingredient(a)?.name ?? a, held.ingredient(b)?.name ?? b) || compare(a, b),
  )

async function storedPage(db: Database, held: HeldHouse, which: WhichLots, asked: LotsAsked) {
  const { sort, isDown, from, limit } = asked
  const counts = await countLots(db, which)
  const total = [...counts.values()].reduce((sum, count) => sum + count, 0)
  if (sort !== 'name') {
    const order = sort ? { by: sort, isDown } : { by: 'number' as const, isDown: true }
    return { total, rows: await loadLots(db, which, { ...order, from, limit }) }
  }
  // By the names of what they are of: those before the page are only counted.
  const slugs = byName(held, [...counts.keys()])
  const rows: Lot[] = []
  let before = 0
  for (const slug of isDown ? slugs.reverse() : slugs) {
    const count = counts.get(slug) ?? 0
    const skip = Math.max(0, from - before)
    const left = limit - rows.length
    if (left > 0 && skip < count) {
      // A number or a hand may have led to some of them alone.
      const of = { ...which, of: slug }
      rows.push(...(await loadLots(db, of, { by: 'number', isDown: !isDown, from: skip, limit: left })))
    }
    before += count
  }
  return { total, rows }
}
