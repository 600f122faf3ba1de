import { bySlug, type Ingredient } from '@conch/core/house'
import { useHouse } from '../app/house.tsx'
import { useShelf } from '../app/shelf.ts'

const ASKED = { words: 'lime juice', limit: 5 }

/** The house's lime juice, found by its name: what sourness is held against. Undefined where there is none. */
export function useLimeJuice(): Ingredient | undefined {
  const { book } = useHouse()
  const { picked, isNear } = useShelf(ASKED)
  if (isNear) return undefined
  return picked.map((slug) => bySlug(book.ingredients, slug)).find((i) => i?.kind === 'juice')
}
