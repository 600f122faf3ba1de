import { toFraction } from './readAmount.ts'
import { type Amount, UNITS, type Unit } from './units.ts'

const VULGAR: Record<string, string> = {
  '1/2': '½',
  '1/3': '⅓',
  '2/3': '⅔',
  '1/4': '¼',
  '3/4': '¾',
  '1/8': '⅛',
  '3/8': '⅜',
  '5/8': '⅝',
  '7/8': '⅞',
}

/** A value as people write it: 1.5 → "1½", 0.41 → "0.41". */
export function valueText(value: number): string {
  const fraction = toFraction(value)
  if (!fraction) return String(Number(value.toFixed(3)))
  if (fraction.above === 0) return String(fraction.whole)
  const vulgar = VULGAR[`${fraction.above}/${fraction.below}`] ?? `${fraction.above}/${fraction.below}`
  return fraction.whole === 0 ? vulgar : `${fraction.whole}${vulgar}`
}

/** The unit's word after this value: "dashes", "oz". */
export function unitText(amount: Pick<Amount, 'value' | 'unit'>): string {
  const { label } = UNITS[amount.unit]
  const hasPlural =
    amount.unit === 'dash' ||
    amount.unit === 'drop' ||
    amount.unit === 'spray' ||
    amount.unit === 'barSpoon' ||
    amount.unit === 'part' ||
    amount.unit === 'count' ||
    amount.unit === 'cup'
  if (!hasPlural || amount.value <= 1) return label
  return amount.unit === 'dash' ? 'dashes' : `${label}s`
}

/** Metric amounts are read in decimals, all others in fractions. */
const isMetric = (unit: Unit) => unit === 'ml' || unit === 'cl'

/** An amount as people write it: "1½ oz", "22.5 ml", "2 dashes". */
export function amountText(amount: Pick<Amount, 'value' | 'unit'>): string {
  const value = isMetric(amount.unit) ? String(Number(amount.value.toFixed(3))) : valueText(amount.value)
  return `${value} ${unitText(amount)}`
}
