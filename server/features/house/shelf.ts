/** Parts of the shelf, and lists of it, as one who asks may see them. */

import type { ShelfPart, ShelfRows, shelfQuery, shelfRowsQuery, UsedIn } from '@conch/contract'
import { clockOf, nightOf } from '@conch/core/calendar'
import { currentLots } from '@conch/core/formula'
import { type Ingredient, isAcidPowder, nameApart, type ShelfShown, shelfList } from '@conch/core/house'
import { distanceTo, type Missing, SPIRIT_WEIGHTS, standInBottles, targetOf } from '@conch/core/standin'
import type { z } from 'zod'
import type { Actor } from '../../access/actor.ts'
import { closeHouse, mayOpen } from '../../access/seal.ts'
import { baseOf, closureOf, type HeldHouse, type HousePart, partFor, partOf, toBook } from '../../held/index.ts'
import { resolvedIfKnown, SHELF_KINDS, shelfCounts, shelfInOrder, withFigures } from './resolvedShelf.ts'

type Asked = z.output<typeof shelfQuery>

interface Picked {
  slugs: string[]
  total: number
  isNear: boolean
}

/** A part of the shelf with all that it needs. */
export function getShelfPart(asked: Asked, { role }: Actor, held: HeldHouse, now: Date): ShelfPart {
  const { slugs, total, isNear } = pick(asked, held, mayOpen(role))
  const part = seenPart(held, slugs, mayOpen(role))
  const known = part.ingredients.map((i) => i.slug)
  const yields = known.flatMap((slug) => {
    const fruitYield = held.fruitYieldOf(slug)
    return fruitYield ? [[slug, fruitYield] as const] : []
  })
  return {
    sequence: held.lastOf(SHELF_KINDS),
    picked: slugs,
    total,
    isNear,
    ingredients: part.ingredients,
    positions: Object.fromEntries(known.map((slug) => [slug, held.positionOf(slug)])),
    revisions: Object.fromEntries(known.map((slug) => [slug, held.ingredientRevision(slug)])),
    lots: [...currentLots(part.lots, nightOf(now, clockOf(part.settings))).values()],
    tasted: part.tasted,
    fruitYields: Object.fromEntries(yields),
  }
}

/** A part as one who asks may see it: what is only inside of something sealed is not in it. */
function seenPart(held: HeldHouse, slugs: readonly string[], isOpen: boolean): HousePart {
  if (isOpen) {
    const part = partFor(held, slugs)
    return { ...part, ingredients: part.ingredients.map(ofItsOwn) }
  }
  const closed = closeHouse(partFor(held, slugs), held.onShelf())
  const seen = closureOf(held, slugs, (i) => !i.isSealed)
  const own = partOf(held, seen)
  return {
    ...closed,
    ingredients: closed.ingredients.filter((i) => seen.has(i.slug)),
    lots: closed.lots.filter((l) => seen.has(l.ingredient)),
    tasted: own.tasted,
  }
}

/** Without what the house keeps for others: it is no part of what a manager writes. */
const ofItsOwn = ({ sealedAs: _, ...i }: Ingredient): Ingredient => i

function pick(asked: Asked, held: HeldHouse, isOpen: boolean): Picked {
  const all = (slugs: readonly string[], isNear = false): Picked => ({
    slugs: slugs.slice(0, asked.limit),
    total: slugs.length,
    isNear,
  })
  if (asked.of) return all(asked.of.filter((slug) => held.ingredient(slug)))
  if (asked.words !== undefined) {
    const { slugs, isNear } = held.ingredientFinder.find(asked.words)
    return all(slugs, isNear)
  }
  if (asked.meant !== undefined) return all(held.ingredientFinder.findSome(asked.meant))
  if (asked.shown) return all(slugsOf(shelfList(held.allIngredients(), byKind(asked.shown))))
  if (asked.near) return all(nearest(asked.near, held, isOpen))
  if (asked.sweetLike) return all(sweetLike(asked.sweetLike, held))
  const above = asked.strongerThan ?? 0
  const strong = held.allIngredients().filter((i) => !i.recipe && i.figures.abvPct.value > above)
  const acids = held.allIngredients().filter(isAcidPowder)
  strong.sort((a, b) => b.figures.abvPct.value - a.figures.abvPct.value)
  return all(slugsOf([...acids, ...strong]))
}

const slugsOf = (ingredients: readonly Ingredient[]) => ingredients.map((i) => i.slug)
const byKind = (shown: ShelfShown) => ({ shown, sort: 'shelf' as const, isDown: false })

/** Near or far has nothing to do with what is in stock tonight. */
const asStocked = ({ stock: _, ...i }: Ingredient): Ingredient => i

/** The bottles of the same family, nearest first; of what is sealed nobody learns by nearness what is in it. */
function nearest(near: string, held: HeldHouse, isOpen: boolean): string[] {
  const [kind, slug = ''] = near.split(':')
  const slot = kind === 'slot' ? baseOf(held).slots.find((s) => s.slug === slug) : undefined
  const ingredient = kind === 'bottle' ? held.ingredient(slug) : undefined
  const own = slot ? [...slot.candidates, ...slot.refused].map((c) => c.ingredient) : ingredient ? [slug] : []
  if (ingredient?.isSealed && !isOpen) return own
  const missing: Missing | undefined = slot ? { slot } : ingredient ? { ingredient } : undefined
  if (!missing) return own
  // Its own figures are those that it has today; the others are not made here.
  const book = toBook(seenPart(held, own, isOpen), new Date(0), undefined)
  const today = ingredient ? (book.ingredients.find((i) => i.slug === slug) ?? ingredient) : undefined
  const asMissing: Missing = today ? { ingredient: today } : missing
  const shelf = held.allIngredients().map(asStocked)
  const profiles = Object.fromEntries(
    [...held.tastedSlugs(), ...own].map((s) => [s, held.profileOf(s) ?? book.profiles?.[s] ?? {}]),
  )
  const whole = { ...book, ingredients: shelf, profiles }
  const target = targetOf(asMissing, { ...whole, ingredients: [...book.ingredients, ...shelf] })
  const ranked = standInBottles(asMissing, whole)
    .map((bottle) => ({
      slug: bottle.slug,
      steps: distanceTo(target, [{ bottle, volumeMl: 1 }], SPIRIT_WEIGHTS).steps,
    }))
    .sort((a, b) => a.steps - b.steps || (a.slug < b.slug ? -1 : 1))
  return [...new Set([...own, ...ranked.map((r) => r.slug)])]
}

/** Sugar above which something sweetens, g in 100 ml. */
const SWEET_G_PER_100ML = 20

function sweetLike(slug: string, held: HeldHouse): string[] {
  const from = held.ingredient(slug)
  if (!from) return []
  const words = from.name.split(' ').filter((w) => w.length > 4)
  const isLike = (i: Ingredient) => Number(i.kind === from.kind) + 2 * Number(words.some((w) => i.name.includes(w)))
  const sweet = held
    .allIngredients()
    .filter((i) => i.slug === slug || i.recipe !== undefined || i.figures.sugarGPer100Ml.value >= SWEET_G_PER_100ML)
  return slugsOf([...sweet].sort((a, b) => isLike(b) - isLike(a) || a.name.localeCompare(b.name)))
}

/** A page of the shelf with the figures of today. */
export function listShelf(
  asked: z.output<typeof shelfRowsQuery>,
  { role }: Actor,
  held: HeldHouse,
  now: Date,
): ShelfRows {
  const { shown, words, sort, down, from, limit } = asked
  const isDown = down === 'yes'
  const isOpen = mayOpen(role)
  const found = words?.trim() ? held.ingredientFinder.find(words) : undefined
  const listed = found
    ? foundInOrder(
        held,
        found.slugs.flatMap((slug) => held.ingredient(slug) ?? []),
        asked,
        now,
        isOpen,
      )
    : shelfInOrder(held, { shown, sort: sort ?? 'shelf', isDown, isOpen }, now)
  const slugs = slugsOf(listed.slice(from, from + limit))
  const rows = rowsOf(held, slugs, isOpen, now)
  return {
    total: listed.length,
    from,
    isNear: found?.isNear ?? false,
    counts: { ...shelfCounts(held, now), openLots: held.openLotCount },
    rows,
  }
}

/** What words led to, best first unless an order is asked for. */
function foundInOrder(
  held: HeldHouse,
  found: readonly Ingredient[],
  { shown, sort, down }: Pick<z.output<typeof shelfRowsQuery>, 'shown' | 'sort' | 'down'>,
  now: Date,
  isOpen: boolean,
): Ingredient[] {
  if (!sort) return found.filter((i) => shelfList([i], byKind(shown)).length > 0)
  return shelfList(withFigures(held, found, sort, now, isOpen), { shown, sort, isDown: down === 'yes' })
}

/** Rows with the figures of today: where they are not known yet, only what these need is computed. */
function rowsOf(held: HeldHouse, slugs: readonly string[], isOpen: boolean, now: Date): ShelfRows['rows'] {
  const known = isOpen ? resolvedIfKnown(held, now) : undefined
  const bySlug =
    known ?? new Map(toBook(seenPart(held, slugs, isOpen), now, undefined).ingredients.map((i) => [i.slug, i]))
  return slugs.flatMap((slug) => {
    const found = bySlug.get(slug)
    if (!found) return []
    const ingredient = ofItsOwn(found)
    const alike = [...held.namesakesOf(slug)].flatMap((s) => bySlug.get(s) ?? [])
    return [
      {
        ingredient,
        name: nameApart(ingredient, alike),
        revision: held.ingredientRevision(slug),
        inMixes: countHolders(held, slug, isOpen),
      },
    ]
  })
}

/** More than a page shows of what holds something. */
const MOST_HOLDERS = 200

/** The mixes that hold something, nearest first; for whoever may not open what is sealed, without what only that would tell. */
export function mixesHolding(slug: string, { role }: Actor, held: HeldHouse): UsedIn {
  const isOpen = mayOpen(role)
  const found = new Map<string, { slug: string; name: string; level: number; isBlend: boolean }>()
  let wave = [slug]
  for (let level = 1; wave.length > 0; level++) {
    const next = new Set(wave.flatMap((s) => [...held.holdersOf(s)]))
    wave = [...next].filter((s) => s !== slug && !found.has(s) && (isOpen || !held.ingredient(s)?.isSealed)).sort()
    for (const s of wave) {
      const { name = s, kind } = held.ingredient(s) ?? {}
      found.set(s, { slug: s, name, level, isBlend: kind === 'blend' })
    }
  }
  return { total: found.size, mixes: [...found.values()].slice(0, MOST_HOLDERS) }
}

/** How many mixes hold it, at any depth. */
function countHolders(held: HeldHouse, slug: string, isOpen: boolean): number {
  const found = new Set<string>()
  const wave = [slug]
  for (let next = wave.pop(); next !== undefined; next = wave.pop())
    for (const holder of held.holdersOf(next))
      if (!found.has(holder) && (isOpen || !held.ingredient(holder)?.isSealed)) {
        found.add(holder)
        wave.push(holder)
      }
  return found.size
}
