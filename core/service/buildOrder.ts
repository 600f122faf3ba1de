/** What is poured first: the house's order, for everything that is not said otherwise by the spec. */

import type { ResolvedPour } from '../drink/index.ts'
import { type BuildOrder, type IngredientKind, pricePerThousand } from '../house/index.ts'

/**
 * What a litre of such a thing costs beside the others where its price is not known. Assumed: only the order counts, and it is
 * the same in every bar that buys fruit, sugar and spirits.
 */
const USUAL_PRICE: Record<IngredientKind, number> = {
  soda: 2,
  syrup: 4,
  houseMix: 6,
  dairy: 6,
  juice: 7,
  puree: 9,
  produce: 9,
  dryGood: 9,
  garnish: 9,
  other: 12,
  wine: 14,
  spirit: 24,
  liqueur: 26,
  blend: 30,
  bitters: 60,
}

const CITRUS: readonly IngredientKind[] = ['juice', 'puree', 'syrup', 'houseMix', 'dairy', 'soda', 'other']
const SPIRIT: readonly IngredientKind[] = ['spirit', 'blend', 'liqueur', 'wine', 'bitters']
/** A juice below this is not what a hand means by citrus, g of acid in 100 ml. */
const SOUR_G_PER_100ML = 3

/** What one pour of it costs, in the house's currency where its price is known, else by its kind. */
function costOf({ ingredient, volumeMl }: ResolvedPour): number {
  const known = ingredient && !ingredient.recipe && !ingredient.closed ? pricePerThousand(ingredient) : undefined
  return ((known ?? USUAL_PRICE[ingredient?.kind ?? 'other']) * volumeMl) / 1000
}

/** Small first. A sealed blend has no price on a tablet; it goes by its kind. */
export function pourRank(pour: ResolvedPour, order: BuildOrder): number {
  const kind = pour.ingredient?.kind ?? 'other'
  const cost = costOf(pour)
  // A round's pours cost less than this together.
  const group = (place: number) => place * 1000 + cost
  switch (order) {
    case 'cheapestFirst':
      return cost
    case 'citrusFirst': {
      const isSour = kind === 'juice' && (pour.ingredient?.figures.acidGPer100Ml.value ?? 0) >= SOUR_G_PER_100ML
      if (isSour) return group(0)
      const place = CITRUS.indexOf(kind)
      return place >= 0 ? group(1 + place) : group(20 + SPIRIT.length - SPIRIT.indexOf(kind))
    }
    case 'spiritFirst': {
      const place = SPIRIT.indexOf(kind)
      return place >= 0 ? group(place) : group(20 + CITRUS.indexOf(kind))
    }
  }
}
