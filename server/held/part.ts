/** A part of the house: what some things need to be computed, and nothing else. */

import { clockOf, nightOf } from '@conch/core/calendar'
import { type DrinkDocument, pouredIn } from '@conch/core/drink'
import { type KeptHouse, resolveHouse } from '@conch/core/formula'
import type { HouseBook, Ingredient } from '@conch/core/house'
import type { StyleProfile } from '@conch/core/palate'
import { Refusal } from '../errors/Refusal.ts'
import type { HeldHouse, HouseBase } from './heldHouse.ts'

/** As much of the house as was asked for, in the house's order. */
export type HousePart = KeptHouse & Required<Pick<KeptHouse, 'slots' | 'tasted' | 'calibrations'>>

/** @throws Refusal `notSetUp` */
export function baseOf(held: HeldHouse): HouseBase {
  if (!held.base) throw new Refusal('notSetUp', 'set up the house first: its name, its ounce and its wells')
  return held.base
}

/**
 * Everything that these need: what they are made of, at every depth, and whatever is called alike, or nobody could tell
 * the two apart.
 * @param mayEnter whether what something is made of goes along
 */
export function closureOf(
  held: HeldHouse,
  slugs: Iterable<string>,
  mayEnter: (ingredient: Ingredient) => boolean = () => true,
): Set<string> {
  const found = new Set<string>()
  const wave = [...slugs]
  for (let slug = wave.pop(); slug !== undefined; slug = wave.pop()) {
    const ingredient = held.ingredient(slug)
    if (!ingredient || found.has(slug)) continue
    found.add(slug)
    wave.push(...held.namesakesOf(slug))
    if (ingredient.recipe && mayEnter(ingredient)) wave.push(...ingredient.recipe.components.map((c) => c.ingredient))
  }
  return found
}

/** The part of the house that these need. @throws Refusal `notSetUp` */
export function partFor(held: HeldHouse, slugs: Iterable<string>): HousePart {
  return partOf(held, closureOf(held, slugs))
}

/** The part of the house that is just these. @throws Refusal `notSetUp` */
export function partOf(held: HeldHouse, only: ReadonlySet<string>): HousePart {
  const { settings, wells, glasses, slots, calibrations } = baseOf(held)
  const inOrder = [...only].sort((a, b) => held.positionOf(a) - held.positionOf(b) || (a < b ? -1 : 1))
  const tasted = inOrder.flatMap((slug): [string, StyleProfile][] => {
    const profile = held.profileOf(slug)
    return profile ? [[slug, profile]] : []
  })
  return {
    settings,
    wells,
    glasses,
    slots,
    calibrations,
    ingredients: inOrder.flatMap((slug) => held.ingredient(slug) ?? []),
    // Only the newest of each stands for something; all of them are few.
    lots: inOrder.flatMap((slug) => held.openLotsOf(slug)).sort((a, b) => a.id - b.id),
    tasted: Object.fromEntries(tasted),
  }
}

/** A part as drinks see it on a day: mixes and lots resolved. @param at left out of what does not ask for hours */
export function toBook(part: HousePart, now: Date, at: Date | undefined = now): HouseBook {
  return resolveHouse(part, nightOf(now, clockOf(part.settings)), at)
}

/** The house as these documents see it on a day. @throws Refusal `notSetUp` */
export function bookFor(held: HeldHouse, documents: readonly Pick<DrinkDocument, 'pours'>[], now: Date): HouseBook {
  return toBook(partFor(held, pouredIn(documents, baseOf(held).slots)), now)
}
