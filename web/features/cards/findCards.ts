/** Cards by what one has in mind or in hand: first letters of a drink, a bottle, a glass. */

import type { DrinkDocument } from '@conch/core/drink'
import { resolveDrink } from '@conch/core/drink'
import type { HouseBook } from '@conch/core/house'
import { beginsWith } from '@conch/core/text'

export interface CardDrink {
  drink: string
  name: string
  document: DrinkDocument
}

/** A way to narrow the cards down. */
export interface CardFilter {
  kind: 'bottle' | 'glass'
  /** Its slug, or name of what has none. */
  of: string
  name: string
}

export interface Found {
  drinks: CardDrink[]
  filters: (CardFilter & { count: number })[]
}

/** Every bottle that a drink pours at a well tonight, and its glass. */
function partsOf({ document }: CardDrink, book: HouseBook, well: string): CardFilter[] {
  const resolution = resolveDrink(document, book, well)
  if (!resolution.ok) return []
  const { pours, glass } = resolution.drink
  const bottles = pours.map((p): CardFilter => ({ kind: 'bottle', of: p.ingredient?.slug ?? p.name, name: p.name }))
  const slug = document.glassByWell?.[well] ?? document.glass
  return glass ? [...bottles, { kind: 'glass', of: slug ?? glass.name, name: glass.name }] : bottles
}

export const isIn = (drink: CardDrink, filter: CardFilter, book: HouseBook, well: string): boolean =>
  partsOf(drink, book, well).some((p) => p.kind === filter.kind && p.of === filter.of)

/** What first letters lead to: drinks by name, and every bottle and glass that some of them want, with how many. */
export function findCards(drinks: readonly CardDrink[], letters: string, book: HouseBook, well: string): Found {
  const counts = new Map<string, CardFilter & { count: number }>()
  for (const drink of drinks) {
    const own = new Map(partsOf(drink, book, well).map((p) => [`${p.kind} ${p.of}`, p]))
    for (const [key, part] of own) {
      if (!beginsWith(part.name, letters)) continue
      counts.set(key, { ...part, count: (counts.get(key)?.count ?? 0) + 1 })
    }
  }
  return {
    drinks: drinks.filter((d) => beginsWith(d.name, letters)),
    filters: [...counts.values()].sort((a, b) => b.count - a.count || a.name.localeCompare(b.name)),
  }
}
