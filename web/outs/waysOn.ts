import type { DrinkAtWell } from '@conch/contract'
import type { DrinkDocument } from '@conch/core/drink'

/** Where one looks for something instead of what is missing; undefined: nothing on this page finds it. */
export function insteadAddress(
  drink: string,
  version: number,
  document: DrinkDocument | undefined,
  { missing }: Pick<DrinkAtWell, 'missing'>,
  well: string,
): string | undefined {
  const [first] = missing
  if (!first || !document) return undefined
  if (first.kind === 'glass') return `/drinks/${drink}/tune?v=${version}&tonight=${well}`
  const line = document.pours.findIndex((p) => (first.kind === 'slot' ? p.slot : p.ingredient) === first.of)
  if (line < 0) return undefined
  const of = first.kind === 'slot' ? `slot=${first.of}` : `bottle=${first.of}`
  return `/stand-in?${of}&drink=${drink}&v=${version}&line=${line}&tonight=${well}`
}
