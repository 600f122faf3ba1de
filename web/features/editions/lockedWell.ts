import type { Well } from '@conch/core/house'
import type { EditionLock } from '@conch/core/menu'

/** The well to show an edition at: the one asked for, when it was there then; else its first. */
export function lockedWell(lock: EditionLock, slug: string): Well {
  const well = lock.book.wells.find((w) => w.slug === slug) ?? lock.book.wells[0]
  if (!well) throw new Error('bug: an edition without a well')
  return well
}
