/** Whether a drink is what somebody wishes for. */

import type { Predictions } from '../drink/index.ts'
import { plainText } from '../text/index.ts'
import type { Taste, Wish } from './readWish.ts'

/** A drink as wishes are about it: what is in the glass at a well, and every word that it may be found by. */
export interface Wished {
  predictions: Predictions
  serves: number
  allergens: readonly string[]
  /** Somebody has to look first at what is in it. */
  isAllergenUnsure: boolean
  /** Of its glass, mm; 0: none. */
  stemMm: number
  /** Its name, and names, kinds and styles of what it pours. */
  text: string
}

/**
 * Conventions, not measures of taste: where a house that says "sweet" mostly means it. In the glass, g in 100 ml; % by
 * volume; ml of liquid a serve.
 */
const LINES = {
  sweetG: 8,
  dryG: 5,
  sourG: 0.85,
  strongPct: 18,
  lightPct: 10,
  longMl: 170,
  stemMm: 50,
} as const

/** @returns undefined where it is not known: then nobody is told that it is */
function isLike(taste: Taste, { predictions: p, serves, stemMm }: Wished): boolean | undefined {
  const of = (value: number | undefined, test: (v: number) => boolean) =>
    value === undefined ? undefined : test(value)
  const perServe = p.volumeMl && p.volumeMl.value / Math.max(1, serves)
  switch (taste) {
    case 'sweet':
      return of(p.sweetGPer100Ml?.value, (v) => v >= LINES.sweetG)
    case 'dry':
      return of(p.sweetGPer100Ml?.value, (v) => v <= LINES.dryG)
    case 'sour':
      return of(p.sourGPer100Ml?.value, (v) => v >= LINES.sourG)
    case 'strong':
      return of(p.strengthPct?.value, (v) => v >= LINES.strongPct)
    case 'light':
      return of(p.strengthPct?.value, (v) => v <= LINES.lightPct)
    case 'long':
      return of(perServe, (v) => v >= LINES.longMl)
    case 'short':
      return of(perServe, (v) => v < LINES.longMl)
    case 'up':
      return stemMm >= LINES.stemMm
    case 'shared':
      return serves > 1
  }
}

/** A word, or several of it: "gin" is in neither "ginger" nor "virgin". */
const hasWord = (text: string, word: string): boolean => {
  const plain = ` ${plainText(text).replace(/[^a-z0-9]+/g, ' ')} `
  return plain.includes(` ${word} `) || plain.includes(` ${word}s `)
}

/** So many letters of a word stand for it, where nothing is kept from anybody by it. */
const LEAST_LETTERS = 4
const beginsWord = (text: string, word: string): boolean =>
  hasWord(text, word) ||
  (word.length >= LEAST_LETTERS && ` ${plainText(text).replace(/[^a-z0-9]+/g, ' ')}`.includes(` ${word}`))

/**
 * Whether it fits. What is not known never fits a wish about it: whoever may not have nuts is told of nothing whose
 * nuts nobody knows. Strength counts by the far end of what is predicted.
 */
export function fitsWish(wish: Wish, drink: Wished): boolean {
  const { predictions, allergens, isAllergenUnsure, text } = drink
  const strength = predictions.strengthPct
  if (wish.withoutAllergens.length > 0) {
    if (isAllergenUnsure) return false
    if (wish.withoutAllergens.some((a) => allergens.includes(a))) return false
  }
  if (wish.mostPct !== undefined && !(strength && strength.high <= wish.mostPct)) return false
  if (wish.leastPct !== undefined && !(strength && strength.low >= wish.leastPct)) return false
  if (wish.is.some((taste) => isLike(taste, drink) !== true)) return false
  if (wish.isNot.some((taste) => isLike(taste, drink) !== false)) return false
  return wish.words.every((w) => beginsWord(text, w)) && !wish.notWords.some((w) => hasWord(text, w))
}
