import type { DrinkDocument, PourLine } from '../drink/index.ts'
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
  blend: [5, 90],
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
/** A house may well pour somewhat more or less than it ever did. */
const ROOM = 1.6
/** One drink of a house that is further from the others than this, as a factor, does not say what is usual. */
const ODD_TIMES = 3

/** What is measured by counting or by the spoon is usual or not by its own count, whatever the ml. */
const BY_COUNT: Partial<Record<Unit, [low: number, high: number]>> = {
  drop: [0.5, 25],
  dash: [0.5, 8],
  spray: [0.5, 8],
  barSpoon: [0.25, 4],
  tsp: [0.1, 4],
}

export const isByCount = (unit: Unit): boolean => BY_COUNT[unit] !== undefined

const pouredMl = (pour: PourLine, document: DrinkDocument, kit: MeasureKit): number | undefined => {
  const ml = pour.volumeMl ?? (pour.amount && volumeMlOfAmount(pour.amount, kit, document.partMl))
  return ml === undefined ? undefined : ml / document.serves
}

/**
 * What is usual of this: by the house's pours of it, one for each drink, without a drink that stands alone; else by its
 * kind. What is counted in drops and dashes says nothing of what is poured.
 */
export function usualRange(
  ingredient: Ingredient,
  documents: readonly DrinkDocument[],
  kit: MeasureKit,
): UsualRange | undefined {
  const byDrink = new Map<string, number[]>()
  for (const document of documents)
    for (const { slug, ml } of countedPours(document, kit))
      if (slug === ingredient.slug) byDrink.set(document.name, [...(byDrink.get(document.name) ?? []), ml])
  return usualRangeOf(ingredient, [...byDrink.values()])
}

/** What of a document says what is usual: what it pours of each thing, ml for one serve, without what is counted. */
export function countedPours(document: DrinkDocument, kit: MeasureKit): { slug: string; ml: number }[] {
  return document.pours.flatMap((pour) => {
    if (!pour.ingredient || (pour.amount && isByCount(pour.amount.unit))) return []
    const ml = pouredMl(pour, document, kit)
    return ml === undefined ? [] : [{ slug: pour.ingredient, ml }]
  })
}

/** The same from what every drink pours of it, ml for one serve, one list for each drink. */
export function usualRangeOf(ingredient: Ingredient, byDrink: readonly (readonly number[])[]): UsualRange | undefined {
  const everyPour = byDrink.flat().sort((a, b) => a - b)
  if (everyPour.length < FEWEST_POURS) return shippedRange(ingredient)
  const median = everyPour[Math.floor(everyPour.length / 2)] as number
  const isOdd = (ml: number) => ml > median * ODD_TIMES || ml < median / ODD_TIMES
  // Odd together, two drinks are a habit.
  const oddDrinks = byDrink.filter((pours) => pours.some(isOdd)).length
  const counted = oddDrinks >= 2 ? everyPour : everyPour.filter((ml) => !isOdd(ml))
  return {
    lowMl: (counted[0] as number) / ROOM,
    highMl: (counted[counted.length - 1] as number) * ROOM,
    basis: 'house',
  }
}

/** Whether an amount is outside of what is usual: of a serve in ml; what is counted by its own count. */
export function isUnusual(amount: Amount, range: UsualRange, kit: MeasureKit, serves = 1): boolean {
  const count = BY_COUNT[amount.unit]
  // One dash may be meant for a whole bowl.
  if (count) return amount.value < count[0] || amount.value / serves > count[1]
  const ml = volumeMlOfAmount(amount, kit)
  return ml !== undefined && (ml / serves < range.lowMl || ml / serves > range.highMl)
}

/** Slips that are known: another unit was meant, a decimal point fell out or in, ounces were converted twice. */
const SLIPS: readonly ((amount: Amount, kit: MeasureKit) => Amount | undefined)[] = [
  ({ value, unit }) => (unit === 'oz' && value >= 5 ? { value, unit: 'ml' } : undefined),
  ({ value, unit }) => (unit === 'ml' && value <= 4 ? { value, unit: 'oz' } : undefined),
  ({ value, unit }) => (unit === 'cl' && value >= 10 ? { value, unit: 'ml' } : undefined),
  ({ value, unit }) => (unit === 'ml' && value < 10 ? { value, unit: 'cl' } : undefined),
  ({ value, unit }) => (isMetric(unit) || unit === 'oz' ? { value: value / 10, unit } : undefined),
  ({ value, unit }) => (isMetric(unit) || unit === 'oz' ? { value: value * 10, unit } : undefined),
  ({ value, unit }, kit) =>
    unit === 'ml' && value > 10 * kit.ounceMl ? { value: value / kit.ounceMl, unit } : undefined,
]
const isMetric = (unit: Unit) => unit === 'ml' || unit === 'cl'
/** Nearer than this to what is usual, as a factor, it may well be meant. */
const LEAST_OFF = 1.9
/** A slip changes an amount by so much, as a factor, or it was none. */
const LEAST_SLIP = 3

/**
 * What was likely meant by an amount that is not usual: only where a known slip explains it and leads to what is usual.
 * Nothing for what is counted. Never further off than what was written.
 */
export function likelyAmount(amount: Amount, range: UsualRange, kit: MeasureKit, serves = 1): Amount | undefined {
  if (isByCount(amount.unit) || !isUnusual(amount, range, kit, serves)) return undefined
  const ml = volumeMlOfAmount(amount, kit)
  if (ml === undefined) return undefined
  const each = ml / serves
  if (Math.max(range.lowMl / each, each / range.highMl) < LEAST_OFF) return undefined
  for (const slip of SLIPS) {
    const meant = slip({ value: amount.value, unit: amount.unit }, kit)
    const meantMl = meant && volumeMlOfAmount(meant, kit)
    if (!meant || !meantMl || isUnusual(meant, range, kit, serves)) continue
    const by = meantMl / ml
    if (Math.max(by, 1 / by) >= LEAST_SLIP) return { value: Number(meant.value.toFixed(4)), unit: meant.unit }
  }
  return undefined
}

/** Two pours closer than this are the same, as a fraction. */
const SAME = 0.02

/**
 * What every other version of a drink pours of something, where they are of one mind; with fewer than two others, nothing.
 */
export function siblingAmount(slug: string, siblings: readonly DrinkDocument[], kit: MeasureKit): Amount | undefined {
  const pours = siblings.flatMap((d) => {
    const own = d.pours.filter((p) => p.ingredient === slug)
    const ml = own.length === 1 && own[0] ? pouredMl(own[0], d, kit) : undefined
    return ml === undefined ? [] : [{ ml, pour: own[0] as PourLine }]
  })
  const [first] = pours
  if (!first || pours.length < 2) return undefined
  if (pours.some((p) => Math.abs(p.ml / first.ml - 1) > SAME)) return undefined
  const { amount } = first.pour
  return amount ? { value: amount.value, unit: amount.unit } : { value: first.ml, unit: 'ml' }
}
