import type { Ingredient } from '@conch/core/house'

/** A part of what is asked of something on the back bar. */
export interface PartOfBottle {
  draft: Ingredient
  mayEdit: boolean
  set: (change: Partial<Ingredient>) => void
}
