/** What rows of practice hold together, in the house and on a device. */

import type { Sitting } from './hand.ts'
import type { LearnAnswer, PracticeDocument } from './practiceSchema.ts'

/** One sitting as it is kept. */
export interface Practised {
  document: PracticeDocument
  /** ISO moment at which the house heard of it. */
  savedAt: string
}

/** Every answer that somebody ever gave. */
export const answersIn = (practices: readonly Practised[]): LearnAnswer[] =>
  practices.flatMap(({ document }) => (document.kind === 'drill' ? document.answers : []))

/** Sittings of test pours, in their order. */
export const sittingsIn = (practices: readonly Practised[]): Sitting[] =>
  practices.flatMap(({ document, savedAt }) =>
    document.kind === 'pours' ? [{ at: document.saidAt ?? savedAt, pours: document.pours }] : [],
  )
