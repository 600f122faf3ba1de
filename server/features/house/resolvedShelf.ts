/**
 * The shelf in the orders of its lists, with the figures of today where an order asks for them: put in order once, and
 * afterwards only what an event changed is computed anew.
 */

import { clockOf, nightOf } from '@conch/core/calendar'
import { hasHomework, type Ingredient, type ShelfShown, type ShelfSort, shelfList } from '@conch/core/house'
import { closeHouse } from '../../access/seal.ts'
import { baseOf, type HeldHouse, partFor, toBook } from '../../held/index.ts'

/** Whatever a part of the shelf follows from. */
export const SHELF_KINDS = ['ingredient', 'bottles', 'slot', 'settings', 'lot', 'flight'] as const

/** Figures of mixes follow from what is in them. */
const BY_FIGURE: ReadonlySet<ShelfSort> = new Set(['abvPct', 'sugarGPer100Ml', 'acidGPer100Ml'])

interface Resolved {
  /** The event that it is as of, and the night. */
  sequence: number
  night: string
  bySlug: ReadonlyMap<string, Ingredient>
  /** Of what the lots were that were there. */
  lots: ReadonlyMap<number, string>
}

interface Listed {
  state: string
  lists: Map<string, readonly Ingredient[]>
  counts: ReturnType<typeof countShelf> | undefined
}

const resolved = new WeakMap<HeldHouse, Resolved>()
const listed = new WeakMap<HeldHouse, Listed>()

/** What of the shelf is shown, in an order. */
export function shelfInOrder(
  held: HeldHouse,
  { shown, sort, isDown, isOpen }: { shown: ShelfShown; sort: ShelfSort; isDown: boolean; isOpen: boolean },
  now: Date,
): readonly Ingredient[] {
  const { lists } = listedOf(held, now)
  const key = `${isOpen ? 'open' : 'closed'} ${shown} ${sort}`
  const before = lists.get(key)
  const list = before ?? shelfList(valued(held, sort, now, isOpen), { shown, sort, isDown: false })
  if (!before) lists.set(key, list)
  return isDown ? list.toReversed() : list
}

/** How many there are of each sort that a list can show. */
export function shelfCounts(held: HeldHouse, now: Date) {
  const of = listedOf(held, now)
  of.counts ??= countShelf(held.allIngredients())
  return of.counts
}

const countShelf = (all: readonly Ingredient[]) => ({
  all: all.length,
  homework: all.filter(hasHomework).length,
  mixes: all.filter((i) => i.recipe && i.kind !== 'blend').length,
  blends: all.filter((i) => i.kind === 'blend').length,
})

function listedOf(held: HeldHouse, now: Date): Listed {
  const state = `${held.lastOf(SHELF_KINDS)} ${nightNow(held, now)}`
  const before = listed.get(held)
  if (before?.state === state) return before
  const next: Listed = { state, lists: new Map(), counts: undefined }
  listed.set(held, next)
  return next
}

const nightNow = (held: HeldHouse, now: Date) => nightOf(now, clockOf(baseOf(held).settings))

function valued(held: HeldHouse, sort: ShelfSort, now: Date, isOpen: boolean): readonly Ingredient[] {
  const all = held.allIngredients()
  if (!BY_FIGURE.has(sort)) return all
  const bySlug = resolvedShelf(held, now)
  return asSeen(
    held,
    all.flatMap((i) => bySlug.get(i.slug) ?? []),
    now,
    isOpen,
  )
}

/** In an order by what others may know of it, what is sealed stands where everybody may see that it stands. */
function asSeen(held: HeldHouse, some: readonly Ingredient[], now: Date, isOpen: boolean): readonly Ingredient[] {
  if (isOpen) return some
  const holding = new Set<string>()
  const wave = held.allIngredients().flatMap((i) => (i.isSealed ? [i.slug] : []))
  for (let slug = wave.pop(); slug !== undefined; slug = wave.pop())
    if (!holding.has(slug)) {
      holding.add(slug)
      wave.push(...held.holdersOf(slug))
    }
  const wanted = some.flatMap((i) => (holding.has(i.slug) ? [i.slug] : []))
  if (wanted.length === 0) return some
  const { ingredients } = toBook(closeHouse(partFor(held, wanted), held.onShelf()), now, undefined)
  const seen = new Map(ingredients.map((i) => [i.slug, i]))
  return some.map((i) => (holding.has(i.slug) ? (seen.get(i.slug) ?? i) : i))
}

/** Some of the shelf with the figures of today, where an order asks for them. */
export function withFigures(
  held: HeldHouse,
  some: readonly Ingredient[],
  sort: ShelfSort | undefined,
  now: Date,
  isOpen: boolean,
): readonly Ingredient[] {
  if (sort === undefined || !BY_FIGURE.has(sort)) return some
  const bySlug = resolvedIfKnown(held, now) ?? resolve(held, some, now)
  return asSeen(
    held,
    some.flatMap((i) => bySlug.get(i.slug) ?? []),
    now,
    isOpen,
  )
}

/** The whole shelf with the figures of today, by slug; undefined where nobody asked for it yet. */
export function resolvedIfKnown(held: HeldHouse, now: Date): ReadonlyMap<string, Ingredient> | undefined {
  return resolved.has(held) ? resolvedShelf(held, now) : undefined
}

function resolvedShelf(held: HeldHouse, now: Date): ReadonlyMap<string, Ingredient> {
  const night = nightNow(held, now)
  const before = resolved.get(held)
  const changed = before?.night === night ? changedSince(before, held) : undefined
  if (before && changed?.size === 0) {
    // What else happened is not looked at again.
    before.sequence = held.at.sequence
    return before.bySlug
  }
  const some = changed && [...changed].flatMap((slug) => held.ingredient(slug) ?? [])
  const fresh = resolve(held, some ?? held.allIngredients(), now)
  const bySlug = before && some ? new Map([...before.bySlug, ...fresh]) : fresh
  const lots = new Map(held.allOpenLots().map((lot) => [lot.id, lot.ingredient]))
  resolved.set(held, { sequence: held.at.sequence, night, bySlug, lots })
  return bySlug
}

/** What has other figures since, at every depth; undefined: everything may. */
function changedSince({ sequence, lots }: Resolved, held: HeldHouse): ReadonlySet<string> | undefined {
  const happened = held.eventsSince(sequence)
  if (!happened || happened.some((e) => e.kind === 'bottles' || e.kind === 'settings' || e.kind === 'house'))
    return undefined
  const wave = happened.flatMap(({ kind, subject }) => {
    if (kind === 'ingredient') return [subject]
    // One that is gone by now was there then.
    if (kind === 'lot') return held.openLot(Number(subject))?.ingredient ?? lots.get(Number(subject)) ?? []
    return []
  })
  const found = new Set<string>()
  for (let slug = wave.pop(); slug !== undefined; slug = wave.pop()) {
    if (found.has(slug)) continue
    found.add(slug)
    wave.push(...held.holdersOf(slug))
  }
  return found
}

function resolve(held: HeldHouse, some: readonly Ingredient[], now: Date): Map<string, Ingredient> {
  const wanted = new Set(some.map((i) => i.slug))
  const { ingredients } = toBook(partFor(held, wanted), now, undefined)
  return new Map(ingredients.flatMap((i) => (wanted.has(i.slug) ? [[i.slug, i]] : [])))
}
