/** Whether an answer is right, and how well it sat. */

import type { Grade } from './practiceSchema.ts'
import type { Question } from './questions.ts'

/** What somebody answered: a volume, an order, seconds, grams, names. */
export type Given =
  | { kind: 'amount'; volumeMl: number }
  | { kind: 'order'; bottles: readonly string[] }
  | { kind: 'chill'; durationS: number }
  | { kind: 'ice'; massG: number }
  | { kind: 'glass'; glass: string }
  | { kind: 'garnish'; texts: readonly string[] }
  | { kind: 'allergens'; allergens: readonly string[] }
  | { kind: 'dark'; drinks: readonly string[] }
  | { kind: 'picture'; drink: string }

const SAME_ML = 0.3
/** A hand and a clock: so far off is right, as a part of the seconds and at least so many. */
const SECONDS_OFF = 0.1
const LEAST_SECONDS_OFF = 0.5
/** A scoop that is not struck off. */
const ICE_OFF = 0.15
/** Longer than this it was worked out, not known, s. */
const SLOW_S = 20

const isSameSet = (a: readonly string[], b: readonly string[]) =>
  new Set(a).size === new Set(b).size && a.every((x) => b.includes(x))

export function isRight(question: Question, given: Given): boolean {
  switch (question.kind) {
    case 'amount':
      return given.kind === 'amount' && Math.abs(given.volumeMl - question.volumeMl) <= SAME_ML
    case 'order':
      return given.kind === 'order' && given.bottles.join('\n') === question.bottles.join('\n')
    case 'chill': {
      const off = Math.max(LEAST_SECONDS_OFF, SECONDS_OFF * question.durationS)
      return given.kind === 'chill' && Math.abs(given.durationS - question.durationS) <= off + 1e-9
    }
    case 'ice':
      return given.kind === 'ice' && Math.abs(given.massG - question.massG) <= ICE_OFF * question.massG + 1e-9
    case 'glass':
      return given.kind === 'glass' && given.glass === question.glass
    case 'garnish':
      return given.kind === 'garnish' && isSameSet(given.texts, question.texts)
    case 'allergens':
      return given.kind === 'allergens' && isSameSet(given.allergens, question.allergens)
    case 'dark':
      return given.kind === 'dark' && isSameSet(given.drinks, question.drinks)
    case 'picture':
      return given.kind === 'picture' && given.drink === question.drink
  }
}

/** @param seconds from the question to the answer */
export const gradeOf = (isItRight: boolean, seconds: number): Grade =>
  isItRight ? (seconds > SLOW_S ? 'hard' : 'good') : 'again'
