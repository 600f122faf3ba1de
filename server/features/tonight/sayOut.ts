/** What is out, as it is called. */

import type { OutMarkSaid } from '@conch/contract'
import { isWeighed } from '@conch/core/house'
import type { OutDocument } from '@conch/core/schema/tonight'
import { fruitSlug } from '@conch/core/tonight'
import { baseOf, type HeldHouse } from '../../held/index.ts'
import type { StoredOut } from '../../stores/tonight.ts'

/** What a mark is about, as it is called; undefined where the house has no such thing. */
export function nameOfOut({ kind, of }: Pick<OutDocument, 'kind' | 'of'>, held: HeldHouse): string | undefined {
  if (kind === 'ingredient') return held.ingredient(of)?.name
  if (kind === 'glass') return baseOf(held).glasses.find((g) => g.slug === of)?.name
  if (kind === 'fruit') return fruitsOf(held).get(of)
  const lot = held.openLot(Number(of))
  return lot && `${lot.name}, lot ${lot.id}`
}

/** Every fruit that something is pressed from, or that is on the shelf itself: by its name as one word. */
export function fruitsOf(held: HeldHouse): Map<string, string> {
  const found = new Map<string, string>()
  for (const { kind, name, fruit } of held.allIngredients()) {
    if (fruit) found.set(fruitSlug(fruit.name), fruit.name)
    else if (isWeighed(kind)) found.set(fruitSlug(name), name)
  }
  return found
}

/** As it is told: with what it is called, today or when it was said. */
export function saidOut({ document, ingredient, ...mark }: StoredOut, held: HeldHouse): OutMarkSaid {
  const ofLot = ingredient === null ? undefined : held.ingredient(ingredient)?.name
  return {
    ...mark,
    ...document,
    name: nameOfOut(document, held) ?? (ofLot ? `${ofLot}, lot ${document.of}` : document.of),
    ...(ingredient === null ? {} : { ingredient }),
  }
}
