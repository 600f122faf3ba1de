/** A drink's place on a menu. */
export interface Listing {
  drink: string
  version: number
  chapter: string
}

/** What publishing would change, by drink. */
export interface MenuChange {
  drink: string
  kind: 'added' | 'removed' | 'version' | 'moved'
  before: Listing | undefined
  after: Listing | undefined
}

/** The differences between two menus, in the order of the newer one, the removed drinks last. */
export function menuChanges(before: readonly Listing[], after: readonly Listing[]): MenuChange[] {
  const earlier = new Map(before.map((l) => [l.drink, l]))
  const changes: MenuChange[] = []
  for (const listing of after) {
    const was = earlier.get(listing.drink)
    if (!was) changes.push({ drink: listing.drink, kind: 'added', before: undefined, after: listing })
    else if (was.version !== listing.version)
      changes.push({ drink: listing.drink, kind: 'version', before: was, after: listing })
    else if (was.chapter !== listing.chapter)
      changes.push({ drink: listing.drink, kind: 'moved', before: was, after: listing })
  }
  const kept = new Set(after.map((l) => l.drink))
  for (const was of before) {
    if (!kept.has(was.drink)) changes.push({ drink: was.drink, kind: 'removed', before: was, after: undefined })
  }
  return changes
}
