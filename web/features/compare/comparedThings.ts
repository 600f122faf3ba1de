/** What is compared, as the address has it. Plain functions. */

import type { DrinkDocument } from '@conch/core/drink'
import { bySlug, type HouseBook } from '@conch/core/house'
import { volumeMlOfAmount } from '@conch/core/measure'
import { mixProfiles, resolveSlot, type StyleProfile } from '@conch/core/palate'

/** `drink:slug@3` or `thing:slug`. */
export type ComparedId = string

export const drinkId = (slug: string, version: number | undefined): ComparedId => `drink:${slug}@${version ?? 'draft'}`
/** `slug@3` of a version's id; nothing of anything else. */
export function versionKeyOf(id: ComparedId): string[] {
  const key = id.startsWith('drink:') ? id.slice('drink:'.length) : ''
  return /@[1-9]\d*$/.test(key) ? [key] : []
}
/** The slug of a thing's id; nothing of anything else. */
export const thingSlugOf = (id: ComparedId): string[] => (id.startsWith('thing:') ? [id.slice('thing:'.length)] : [])
export const thingId = (slug: string): ComparedId => `thing:${slug}`

/** The two that are held against each other: a third pick takes the older one's place. */
export function pickTwo(picked: readonly ComparedId[], id: ComparedId): ComparedId[] {
  if (picked.includes(id)) return picked.filter((p) => p !== id)
  return [...picked, id].slice(-2)
}

/** Weaker than this a pour is no base, % ABV. */
const BASE_ABV_PCT = 30

/** The profile of what a drink stands on: its spirits together, by volume. */
export function baseProfile(document: DrinkDocument, book: HouseBook, well: string): StyleProfile {
  const parts = document.pours.flatMap((p) => {
    const slot = bySlug(book.slots ?? [], p.slot)
    const ingredient = slot ? resolveSlot(slot, book, well)?.ingredient : bySlug(book.ingredients, p.ingredient)
    const volumeMl = p.volumeMl ?? (p.amount && volumeMlOfAmount(p.amount, book.settings.kit, document.partMl)) ?? 0
    const isBase =
      ingredient &&
      (ingredient.kind === 'spirit' || ingredient.kind === 'blend') &&
      ingredient.figures.abvPct.value >= BASE_ABV_PCT
    return isBase ? [{ profile: book.profiles?.[ingredient.slug] ?? {}, volumeMl }] : []
  })
  return mixProfiles(parts)
}
