import { sugarGPer100MlOfBrix } from '../liquid/index.ts'

/** A figure as it was written, or why it is none. */
export type ReadFigure = { ok: true; value: number } | { ok: false; reason: string }

/** US proof is twice the ABV; British proof 1.75 times. */
export const PROOF_PER_ABV = { us: 2, british: 1.75 } as const
const HIGHEST_BRIX = 70

const refuse = (reason: string): ReadFigure => ({ ok: false, reason })

/** "12,5" and "12.5" → 12.5. */
function toNumber(text: string | undefined): number {
  return text === undefined || text === '' ? Number.NaN : Number(text.replace(',', '.'))
}
const NUMBER = String.raw`(\d+(?:[.,]\d+)?)`

/** Strength in % ABV: "40", "40 %", "40% vol", "80 proof" (US unless it says British), "70 British proof". */
export function readStrength(text: string): ReadFigure {
  const plain = text.trim().toLowerCase()
  const match = new RegExp(
    `^${NUMBER}\\s*(?:(%|% ?abv|% ?vol\\.?|abv|vol)|(us |american |british |uk |imperial )?(?:°\\s*)?proof)?$`,
  ).exec(plain)
  if (!match) return refuse(`“${text}” is no strength; write it like 40, 40 % or 80 proof`)
  const isBritish = /british|uk|imperial/.test(match[3] ?? '')
  const value = toNumber(match[1]) / (plain.includes('proof') ? PROOF_PER_ABV[isBritish ? 'british' : 'us'] : 1)
  return value <= 100
    ? { ok: true, value: rounded(value) }
    : refuse(`“${text}” is ${rounded(value)} % ABV; at most 100`)
}

/** Grams of sugar in 100 ml: "62", "62 g/100 ml", "620 g/l", "65 °Bx". */
export function readSugar(text: string): ReadFigure {
  const match = new RegExp(`^${NUMBER}\\s*(g ?\\/ ?100 ?ml|g ?\\/ ?l|g per l|°? ?bx|°? ?brix)?$`).exec(
    text.trim().toLowerCase(),
  )
  if (!match) return refuse(`“${text}” is no sugar; write it like 62, 620 g/l or 65 °Bx`)
  const value = toNumber(match[1])
  const unit = match[2] ?? ''
  if (unit.includes('b')) {
    if (value > HIGHEST_BRIX) return refuse(`“${text}” cannot be; a syrup has at most ${HIGHEST_BRIX} °Bx`)
    return { ok: true, value: rounded(sugarGPer100MlOfBrix(value)) }
  }
  const perHundred = /\/ ?l$|per l$/.test(unit) ? value / 10 : value
  return perHundred <= 130
    ? { ok: true, value: rounded(perHundred) }
    : refuse(`“${text}” is ${rounded(perHundred)} g in 100 ml; at most 130`)
}

/** A plain amount in 100 ml, or 100 g of what is weighed: "6", "6 g/100 ml", "60 g/l". */
export function readGrams(text: string, most: number): ReadFigure {
  const match = new RegExp(`^${NUMBER}\\s*(g ?\\/ ?100 ?(?:ml|g)|g ?\\/ ?l|%|g)?$`).exec(text.trim().toLowerCase())
  if (!match) return refuse(`“${text}” is no amount; write it like 6 or 60 g/l`)
  const value = match[2] && /\/ ?l$/.test(match[2]) ? toNumber(match[1]) / 10 : toNumber(match[1])
  return value <= most ? { ok: true, value: rounded(value) } : refuse(`${rounded(value)} is too large; at most ${most}`)
}

const SIZES: Record<string, number> = { ml: 1, cl: 10, l: 1000, g: 1, kg: 1000, '': 1 }

/** What one buys, ml or g: "700", "70 cl", "0.7 l", "1 kg". */
export function readSize(text: string): ReadFigure {
  const match = new RegExp(`^${NUMBER}\\s*(ml|cl|l|g|kg)?$`).exec(text.trim().toLowerCase())
  const value = toNumber(match?.[1]) * (SIZES[match?.[2] ?? ''] ?? 1)
  return value > 0 && value <= 100_000
    ? { ok: true, value: rounded(value) }
    : refuse(`“${text}” is no size; write it like 700 ml, 70 cl or 1 kg`)
}

/** A price: "24", "24,50". */
export function readPrice(text: string): ReadFigure {
  const value = toNumber(text.trim().replace(/^[€$£]\s*/, ''))
  return value >= 0 && value <= 100_000 ? { ok: true, value } : refuse(`“${text}” is no price; write it like 24.50`)
}

const rounded = (value: number) => Number(value.toFixed(4))
