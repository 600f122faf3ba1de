import type { DrinkDocument } from '../drink/index.ts'
import type { Ingredient, IngredientKind } from '../house/index.ts'
import { type Amount, type MeasureKit, type Unit, volumeMlOfAmount } from '../measure/index.ts'

/** What is usually poured of something, ml for one serve. */
export interface UsualRange {
  lowMl: number
  highMl: number
  /** By the house's own specs, or shipped with the product. */
  basis: 'house' | 'shipped'
}

/** Until a house has specs of its own: wide enough for what is ordinary (our own estimate). */
const SHIPPED_ML: Partial<Record<IngredientKind, [low: number, high: number]>> = {
  spirit: [5, 90],
  liqueur: [2.5, 60],
  wine: [7.5, 120],
  bitters: [0.2, 10],
  juice: [5, 120],
  puree: [5, 75],
  syrup: [2.5, 60],
  houseMix: [2.5, 75],
  soda: [10, 240],
  dairy: [5, 90],
}
/** What is usual of something, however that is known. */
export type Usual = (ingredient: Ingredient) => UsualRange | undefined

/** Shipped with the product: by kind. Undefined for what is not poured. */
export const shippedRange: Usual = ({ kind }) => {
  const range = SHIPPED_ML[kind]
  return range && { lowMl: range[0], highMl: range[1], basis: 'shipped' }
}

const FEWEST_POURS = 5
const LOW_QUANTILE = 0.05
const HIGH_QUANTILE = 0.95
/** A house may well pour somewhat more or less than it ever did. */
const ROOM = 1.6

/** What is usual of this: by the 5 % and 95 % quantiles of the house's pours of it, else by its kind. */
export function usualRange(
  ingredient: Ingredient,
  documents: readonly DrinkDocument[],
  kit: MeasureKit,
): UsualRange | undefined {
  const poured = documents
    .flatMap((d) =>
      d.pours
        .filter((p) => p.ingredient === ingredient.slug)
        .flatMap((p) => p.volumeMl ?? (p.amount && volumeMlOfAmount(p.amount, kit, d.partMl)) ?? [])
        .map((ml) => ml / d.serves),
    )
    .sort((a, b) => a - b)
  if (poured.length >= FEWEST_POURS) {
    const at = (q: number) => poured[Math.round(q * (poured.length - 1))] as number
    return { lowMl: at(LOW_QUANTILE) / ROOM, highMl: at(HIGH_QUANTILE) * ROOM, basis: 'house' }
  }
  return shippedRange(ingredient)
}

const LIKELY_UNITS: Unit[] = ['ml', 'cl', 'oz', 'dash', 'barSpoon', 'tsp', 'drop']

/** The same number in another unit that would be usual: what was likely meant. */
export function likelyAmount(
  amount: Amount,
  { lowMl, highMl }: UsualRange,
  kit: MeasureKit,
  serves = 1,
): Amount | undefined {
  for (const unit of LIKELY_UNITS) {
    const ml = volumeMlOfAmount({ value: amount.value, unit }, kit)
    if (unit !== amount.unit && ml !== undefined && ml / serves >= lowMl && ml / serves <= highMl)
      return { value: amount.value, unit }
  }
  return undefined
}
