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
