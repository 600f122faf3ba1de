import { type Amount, UNIT_NAMES, UNITS, unitNamed } from './units.ts'

const VULGAR: Record<string, string> = {
  '¼': '1/4',
  '½': '1/2',
  '¾': '3/4',
  '⅓': '1/3',
  '⅔': '2/3',
  '⅛': '1/8',
  '⅜': '3/8',
  '⅝': '5/8',
  '⅞': '7/8',
  '⅕': '1/5',
  '⅙': '1/6',
}

export type ReadAmount = { ok: true; amount: Amount } | { ok: false; reason: string }

/**
 * Reads an amount as people write it: "1 1/2 oz", "1½ oz", "¾", "45 ml", "2,5 cl", "3 dashes".
 * @param fallbackUnit the unit meant when only a number is written
 */
export function readAmount(text: string, fallbackUnit: Amount['unit'] = 'ml'): ReadAmount {
  const asWritten = text.trim()
  // "1½" means one and a half: a space goes before the fraction, or it would read as 11/2.
  const plain = asWritten.replace(/[¼½¾⅓⅔⅛⅜⅝⅞⅕⅙]/g, (f) => ` ${VULGAR[f]} `).trim()
  const match = /^(?:(\d+(?:[.,]\d+)?)(?!\s*\/))?\s*(?:(\d+)\s*\/\s*(\d+))?\s*([a-z][a-z. ]*)?$/i.exec(plain)
  if (!match || (match[1] === undefined && match[2] === undefined)) {
    return { ok: false, reason: `“${asWritten}” is not an amount; write it like 1½ oz, 45 ml or 2 dashes` }
  }
  const whole = match[1] === undefined ? 0 : Number(match[1].replace(',', '.'))
  const below = match[3] === undefined ? 1 : Number(match[3])
  if (below === 0) return { ok: false, reason: `“${asWritten}” divides by zero` }
  const value = whole + (match[2] === undefined ? 0 : Number(match[2]) / below)
  const word = match[4]?.trim()
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
