import { MEASURES, type MeasureName } from '@conch/core/drink'
import { amountText } from '@conch/core/measure'

/** A measure's figure with its honest decimals, for where the unit stands above: "14.7". */
export function bareMeasureText(name: MeasureName, value: number): string {
  const { digits } = MEASURES[name]
  const rounded = value.toFixed(digits)
  // −0.0 is a rounding of nothing.
  return Number(rounded) === 0 ? (0).toFixed(digits) : rounded.replace('-', '−')
}

/** A measure's figure with its honest decimals and its unit: "14.7 %". */
export function measureText(name: MeasureName, value: number): string {
  return `${bareMeasureText(name, value)} ${MEASURES[name].unit}`
}

/** A volume as bars say it: whole ml above 20, one decimal below; halves, which jiggers pour, always. */
export function mlText(volumeMl: number): string {
  const isHalf = Math.abs(volumeMl * 2 - Math.round(volumeMl * 2)) < 1e-6 && volumeMl < 100
  const digits = Number.isInteger(volumeMl) || (volumeMl >= 20 && !isHalf) ? 0 : 1
  return `${volumeMl.toFixed(digits)} ml`
}

/** A volume as a house reads it off its jiggers: ounces where they come out in eighths and the house shows them, else ml. */
export function jiggerText(
  volumeMl: number,
  { showsOunces, kit }: { showsOunces: boolean; kit: { ounceMl: number } },
): string {
  const eighths = (volumeMl / kit.ounceMl) * 8
  const isEven = Math.round(eighths) > 0 && Math.abs(eighths - Math.round(eighths)) < 0.02
  return showsOunces && isEven ? amountText({ value: Math.round(eighths) / 8, unit: 'oz' }) : mlText(volumeMl)
}

const moneyFormats = new Map<string, Intl.NumberFormat>()

/** "€24.50". Making a format is slow: one for each currency is kept. */
export function moneyText(value: number, currency: string): string {
  const format = moneyFormats.get(currency) ?? new Intl.NumberFormat('en-GB', { style: 'currency', currency })
  moneyFormats.set(currency, format)
  return format.format(value)
}

const counts = new Intl.NumberFormat('en-GB')

/** A count with its thousands apart: "731,070". */
export const countText = (count: number): string => counts.format(count)

/** Seconds as a hand counts them: tenths below ten. */
export const secondsText = (s: number): string => `${s < 10 ? s.toFixed(1) : Math.round(s)} s`
