import { NUMBER_PATTERN, readNumber } from './numbers.ts'
import { type Amount, UNIT_NAMES, UNITS, unitNamed } from './units.ts'

export type ReadAmount = { ok: true; amount: Amount } | { ok: false; reason: string }

const AMOUNT = new RegExp(`^(${NUMBER_PATTERN})\\s*([a-z][a-z. ]*)?$`, 'i')

/**
 * Reads an amount as people write it: "1 1/2 oz", "1½ oz", "one and a half oz", ".5 oz", "¾", "45 ml", "2,5 cl",
 * "3 dashes".
 * @param fallbackUnit the unit meant when only a number is written
 */
export function readAmount(text: string, fallbackUnit: Amount['unit'] = 'ml'): ReadAmount {
  const asWritten = text.trim()
  const plain = asWritten.replace(/\s+/g, ' ')
  if (/\/\s*0+(?!\d)/.test(plain)) return { ok: false, reason: `“${asWritten}” divides by zero` }
  const whole = readNumber(plain)
  const match = whole === undefined ? AMOUNT.exec(plain) : null
  const value = whole ?? (match?.[1] === undefined ? undefined : readNumber(match[1]))
  if (value === undefined)
    return { ok: false, reason: `“${asWritten}” is not an amount; write it like 1½ oz, 45 ml or 2 dashes` }
  const word = match?.[2]?.trim().replace(/^of (an?|one) /i, '')
  const unit = word ? unitNamed(word) : fallbackUnit
  if (!unit) {
    const known = UNIT_NAMES.map((u) => UNITS[u].label).join(', ')
    return { ok: false, reason: `“${word}” is not a unit we know; use ${known}` }
  }
  return { ok: true, amount: { value, unit, asWritten } }
}

/** A value as whole number and simple fraction, when it is one: 1.5 → { whole: 1, above: 1, below: 2 }. */
export function toFraction(value: number): { whole: number; above: number; below: number } | undefined {
  const whole = Math.floor(value + 1e-6)
  const rest = value - whole
  if (Math.abs(rest) < 1e-6) return { whole, above: 0, below: 1 }
  for (const below of [2, 3, 4, 8]) {
    const above = Math.round(rest * below)
    if (Math.abs(rest - above / below) < 1e-4) return { whole, above, below }
  }
  return undefined
}
