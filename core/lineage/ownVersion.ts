import type { VersionKind } from './sourceSchema.ts'

/** Kinds that a menu does not take by itself: a book's, and one that is only tried. */
const NOT_FOR_A_MENU: readonly VersionKind[] = ['historical', 'trial']

/** The newest version that is the house's own, neither historical nor a trial; else the newest; undefined: there is none. */
export function ownVersionOf<V extends { number: number; origin: { kind: VersionKind } | null }>(
  versions: readonly V[],
): V | undefined {
  const newest = (among: readonly V[]) =>
    among.reduce<V | undefined>((a, b) => (a && a.number > b.number ? a : b), undefined)
  return newest(versions.filter((v) => !v.origin || !NOT_FOR_A_MENU.includes(v.origin.kind))) ?? newest(versions)
}
