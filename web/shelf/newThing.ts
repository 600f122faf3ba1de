/** Something new on the shelf: what its name and kind already say of it, and under which slug it is saved. */

import type { Figure, Ingredient } from '@conch/core/house'
import { ApiError } from '../app/api.ts'

const KNOWN_ZERO: Figure = { value: 0, basis: 'label' }
const UNKNOWN: Figure = { value: 0, basis: 'unknown' }

/** What is known of a new thing by its kind alone: a juice has no strength; how sweet it is somebody has to say. */
export function figuresOfNew(kind: Ingredient['kind']): Ingredient['figures'] {
  const isStrong = ['spirit', 'liqueur', 'wine', 'bitters'].includes(kind)
  const isSweet = ['liqueur', 'wine', 'juice', 'puree', 'syrup', 'soda', 'other'].includes(kind)
  const isSour = ['wine', 'juice', 'puree', 'other'].includes(kind)
  return {
    abvPct: isStrong ? UNKNOWN : KNOWN_ZERO,
    sugarGPer100Ml: isSweet ? UNKNOWN : KNOWN_ZERO,
    acidGPer100Ml: isSour ? UNKNOWN : KNOWN_ZERO,
  }
}

export const newNamed = (name: string): Ingredient => {
  const kind = kindNamed(name)
  return { slug: '', name, kind, figures: figuresOfNew(kind), storedIn: 'shelf', allergens: [], formerNames: [] }
}

/** Things of one name that are tried before one gives up. */
const MOST_NAMESAKES = 50

/**
 * Saves something under a slug; what is new, under one that nothing has: another thing of the same name is another thing.
 * @returns the slug
 */
export async function saveUnder(
  slug: string,
  isNew: boolean,
  save: (slug: string) => Promise<unknown>,
): Promise<string> {
  for (let n = 1; ; n++) {
    const tried = n === 1 ? slug : `${slug}-${n}`
    try {
      await save(tried)
      return tried
    } catch (error) {
      const isTaken = error instanceof ApiError && error.problem?.code === 'exists'
      if (!isNew || !isTaken || n === MOST_NAMESAKES) throw error
    }
  }
}

/** The kind that a name says. */
function kindNamed(name: string): Ingredient['kind'] {
  const words: [RegExp, Ingredient['kind']][] = [
    [/\bsyrup\b/i, 'syrup'],
    [/\bjuice\b/i, 'juice'],
    [/\bpur[eé]e\b/i, 'puree'],
    [/\bliqueur\b/i, 'liqueur'],
    [/\bbitters\b/i, 'bitters'],
    [/\b(soda|tonic|beer|water)\b/i, 'soda'],
    [/\b(cream|milk)\b/i, 'dairy'],
    [/\b(wine|sherry|port|vermouth)\b/i, 'wine'],
  ]
  return words.find(([word]) => word.test(name))?.[1] ?? 'spirit'
}
