import { MEASURES, type MeasureName } from '@conch/core/drink'

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

/** A volume as bars say it: whole ml above 20, one decimal below. */
export function mlText(volumeMl: number): string {
  const digits = volumeMl >= 20 || Number.isInteger(volumeMl) ? 0 : 1
  return `${volumeMl.toFixed(digits)} ml`
}

const moneyFormats = new Map<string, Intl.NumberFormat>()

/** "€24.50", in the reader's language. Making a format is slow: one for each currency is kept. */
export function moneyText(value: number, currency: string): string {
  const format = moneyFormats.get(currency) ?? new Intl.NumberFormat(undefined, { style: 'currency', currency })
  moneyFormats.set(currency, format)
  return format.format(value)
}

/** "24 August 2026", in the reader's language. */
export function dateText(iso: string): string {
  return new Intl.DateTimeFormat(undefined, { day: 'numeric', month: 'long', year: 'numeric' }).format(new Date(iso))
}

/** "24 Aug", in the reader's language; with its year when that is not this one. */
export function shortDateText(iso: string): string {
  const date = new Date(iso)
  const year = date.getFullYear() === new Date().getFullYear() ? {} : { year: 'numeric' as const }
  return new Intl.DateTimeFormat(undefined, { day: 'numeric', month: 'short', ...year }).format(date)
}

export function timeText(iso: string): string {
  return new Intl.DateTimeFormat(undefined, { hour: '2-digit', minute: '2-digit' }).format(new Date(iso))
}

/** Seconds as a hand counts them: tenths below ten. */
export const secondsText = (s: number): string => `${s < 10 ? s.toFixed(1) : Math.round(s)} s`
