/** Pages of lots, quick when there are many: where each stands is in memory, and only the page is read. */

import type { Lot } from '@conch/core/lots'
import type { Database } from '../../database/index.ts'
import type { HeldHouse } from '../../held/index.ts'
import { findLots, type LotLine, loadLotLines } from '../../stores/lots.ts'
import { LotOrder, type LotSort } from './lotOrder.ts'

/** Things whose lots are looked for at once. */
const MOST_THINGS = 500

export interface LotsAsked {
  words: string
  of: string | undefined
  isOpen: boolean
  /** Left out: the newest first. */
  sort: LotSort | undefined
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
  const { words, of, isOpen, sort, isDown, from, limit } = asked
  const known = await linesOf(db, held)
  const order = isOpen ? new LotOrder(held.allOpenLots()) : known.order
  const number = /^(?:lot\s*)?(\d{1,9})$/i.exec(words)?.[1]
  const found = words === '' ? undefined : held.ingredientFinder.find(words)
  const slugs = new Set(found?.slugs.slice(0, MOST_THINGS))
  const id = number === undefined ? undefined : Number(number)
  const hands = new Set([...known.hands].filter((hand) => hand.toLowerCase().includes(words.toLowerCase())))
  const isMeant = (lot: LotLine) => slugs.has(lot.ingredient) || lot.id === id || hands.has(lot.madeBy)
  const isWanted = (lot: LotLine) => (of === undefined || lot.ingredient === of) && (!found || isMeant(lot))
  const all = order.by(sort, isDown, held)
  const wanted = found || of !== undefined ? all.filter(isWanted) : all
  const page = wanted.slice(from, from + limit)
  const isNear = found?.isNear === true && id === undefined && hands.size === 0 && wanted.length > 0
  return { total: wanted.length, rows: await loadPage(db, held, page), isNear }
}

/** The lots of these lines: those that are there are in memory. */
async function loadPage(db: Database, held: HeldHouse, page: readonly LotLine[]): Promise<Lot[]> {
  const gone = page.flatMap(({ id }) => (held.openLot(id) ? [] : [id]))
  const read = new Map((await findLots(db, gone)).map((lot) => [lot.id, lot]))
  return page.flatMap(({ id }) => held.openLot(id) ?? read.get(id) ?? [])
}

interface Lines {
  /** The last event about a lot that they are as of. */
  upTo: number
  byNumber: readonly LotLine[]
  order: LotOrder
  hands: ReadonlySet<string>
}

const NONE: Omit<Lines, 'upTo'> = { byNumber: [], order: new LotOrder([]), hands: new Set() }

/** Every lot that was ever written down: read once, and added to; a lot never changes. */
const lines = new WeakMap<HeldHouse, Promise<Lines>>()

function linesOf(db: Database, held: HeldHouse): Promise<Lines> {
  const before = lines.get(held)
  const next = (async () => {
    // Whoever failed to read them keeps nobody else from it.
    const known = await before?.catch(() => undefined)
    const upTo = held.lastOf(['lot'])
    if (known?.upTo === upTo) return known
    const { byNumber, hands } = known ?? NONE
    const more = await loadLotLines(db, byNumber.at(-1)?.id ?? 0)
    if (known && more.length === 0) return { ...known, upTo }
    const all = [...byNumber, ...more]
    return { upTo, byNumber: all, order: new LotOrder(all), hands: new Set([...hands, ...more.map((l) => l.madeBy)]) }
  })()
  lines.set(held, next)
  return next
}
