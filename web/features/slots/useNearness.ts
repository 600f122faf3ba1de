import type { Ingredient } from '@conch/core/house'
import type { Slot } from '@conch/core/palate'
import { distanceTo, SPIRIT_WEIGHTS, standInBottles, targetOf } from '@conch/core/standin'
import { useHouse } from '../../app/house.tsx'

/** How far one bottle is from the slot, or undefined when it was not placed on all its lines. */
export function useNearness(slot: Slot) {
  const { book } = useHouse()
  const target = { ...targetOf({ slot }, book), depth: undefined, pricePerLitre: undefined }
  const all = new Map(
    standInBottles({ slot }, { ...book, ingredients: book.ingredients.map(asStocked) }).map((b) => [b.slug, b]),
  )
  return (slug: string) => {
    const bottle = all.get(slug)
    const isPlaced = bottle && Object.keys(slot.target).every((axis) => axis in bottle.style)
    return isPlaced ? distanceTo(target, [{ bottle, volumeMl: 1 }], SPIRIT_WEIGHTS) : undefined
  }
}

/** Near or far has nothing to do with what is in stock tonight. */
const asStocked = ({ stock: _, ...i }: Ingredient): Ingredient => i
