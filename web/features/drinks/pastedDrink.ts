/** From a recipe as it was read, and what a person answered, to a drink document. Plain functions. */

import type { DrinkDocument } from '@conch/core/drink'
import type { Amount } from '@conch/core/measure'
import type { ReadSpec, SpecLine } from '@conch/core/reading'

/** What a person answered about a line. */
export interface Answer {
  /** A bottle or a slot; null: leave the line out. */
  what?: Poured | null
  /** Taken instead of what was read. */
  amount?: Amount
}

/** What a line pours: this bottle, or whatever fills a slot. */
export type Poured = { ingredient: string } | { slot: string }

export type Answers = Readonly<Record<number, Answer>>

/** What a line pours as it stands: undefined while it asks, null when it is left out. */
export function pouredOf(line: SpecLine, answer: Answer | undefined): Poured | null | undefined {
  if (answer?.what !== undefined) return answer.what
  if (line.sure) return { ingredient: line.sure }
  return line.sureSlot ? { slot: line.sureSlot } : undefined
}

/** Lines that still ask: what they are, or how much. */
export function openQuestions(spec: ReadSpec, answers: Answers): number[] {
  return spec.lines.flatMap((line, i) => {
    const what = pouredOf(line, answers[i])
    if (what === null) return []
    return what === undefined || !(answers[i]?.amount ?? line.amount) ? [i] : []
  })
}

/** The drink that begins as this, or undefined when nothing of it is poured. Every line keeps its words. */
export function toDocument(spec: ReadSpec, name: string, answers: Answers): DrinkDocument | undefined {
  const pours = spec.lines.flatMap((line, i): DrinkDocument['pours'] => {
    const what = pouredOf(line, answers[i])
    const amount = answers[i]?.amount ?? line.amount
    if (!what || !amount) return []
    return [{ ...what, amount: { ...amount, asWritten: line.asWritten.slice(0, 60) }, into: 'tin' }]
  })
  if (pours.length === 0) return undefined
  const note = spec.notes.join('\n').slice(0, 2000)
  return {
    format: 'lazy-conch/drink',
    formatVersion: 1,
    name,
    serves: spec.serves,
    pours,
    stages: spec.stage ? [spec.stage] : [],
    ...(spec.glass ? { glass: spec.glass } : {}),
    serveIce: [],
    garnish: spec.garnish.slice(0, 12).map((text) => ({ text: text.slice(0, 120), isFood: true })),
    hasFlame: false,
    ...(note ? { note } : {}),
    standard: {},
  }
}
