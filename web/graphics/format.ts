import { MEASURES, type MeasureName } from '@conch/core/drink'
import { type Amount, toFraction, UNITS } from '@conch/core/measure'

/** A measure's figure with its honest decimals and its unit: "14.7 %". */
export function measureText(name: MeasureName, value: number): string {
  const { digits, unit } = MEASURES[name]
  const rounded = value.toFixed(digits)
  // −0.0 is a rounding of nothing.
  const text = Number(rounded) === 0 ? (0).toFixed(digits) : rounded.replace('-', '−')
  return `${text} ${unit}`
}

/** A volume as bars say it: whole ml above 20, one decimal below. */
export function mlText(volumeMl: number): string {
  const digits = volumeMl >= 20 || Number.isInteger(volumeMl) ? 0 : 1
  return `${volumeMl.toFixed(digits)} ml`
}

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

export function unitText(amount: Pick<Amount, 'value' | 'unit'>): string {
  const { label } = UNITS[amount.unit]
  const hasPlural =
    amount.unit === 'dash' ||
    amount.unit === 'drop' ||
    amount.unit === 'barSpoon' ||
    amount.unit === 'part' ||
    amount.unit === 'cup'
  if (!hasPlural || amount.value <= 1) return label
  return amount.unit === 'dash' ? 'dashes' : `${label}s`
}

export function amountText(amount: Amount): string {
  return `${valueText(amount.value)} ${unitText(amount)}`
}

/** "24 August 2026", in the reader's language. */
export function dateText(iso: string): string {
  return new Intl.DateTimeFormat(undefined, { day: 'numeric', month: 'long', year: 'numeric' }).format(new Date(iso))
}

export function timeText(iso: string): string {
  return new Intl.DateTimeFormat(undefined, { hour: '2-digit', minute: '2-digit' }).format(new Date(iso))
}
