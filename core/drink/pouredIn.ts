import type { HouseBook } from '../house/index.ts'
import type { Slot } from '../palate/index.ts'
import type { DrinkDocument } from './schema.ts'

/** What documents pour by name: bottles and mixes, and everything that may fill a slot of theirs, or was refused there. */
export function pouredIn(documents: readonly Pick<DrinkDocument, 'pours'>[], slots: readonly Slot[]): Set<string> {
  const pours = documents.flatMap((d) => d.pours)
  const inSlots = new Set(pours.flatMap((p) => p.slot ?? []))
  return new Set([
    ...pours.flatMap((p) => p.ingredient ?? []),
    ...slots
      .filter((s) => inSlots.has(s.slug))
      .flatMap((s) => [...s.candidates, ...s.refused].map((c) => c.ingredient)),
  ])
}

/** Whether something sealed is in a drink, at any depth or through a slot. */
export function poursSealed(
  document: Pick<DrinkDocument, 'pours'>,
  { ingredients, slots = [] }: Pick<HouseBook, 'ingredients' | 'slots'>,
): boolean {
  const found = pouredIn([document], slots)
  for (const slug of found) {
    const ingredient = ingredients.find((i) => i.slug === slug)
    if (ingredient?.isSealed) return true
    // A set goes on to what is added while one walks it.
    for (const c of ingredient?.recipe?.components ?? []) found.add(c.ingredient)
  }
  return false
}
