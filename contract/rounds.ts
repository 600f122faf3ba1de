/** Rounds: what was made tonight, and what was put aside half made. */

import { roundDocumentSchema, roundEndSchema } from '@conch/core/service/roundSchema'
import { z } from 'zod'

export const saidRoundSchema = roundDocumentSchema.extend({
  id: z.number().int(),
  savedBy: z.string(),
  savedAt: z.string(),
})
export type SaidRound = z.infer<typeof saidRoundSchema>

export const roundsSchema = z.object({
  /** Put aside and not taken up: the oldest first. */
  parked: z.array(saidRoundSchema),
  /** Finished this night: the newest first. */
  made: z.array(saidRoundSchema),
  /** How many glasses were made this night. */
  glasses: z.number().int(),
})
export type Rounds = z.infer<typeof roundsSchema>

/** What is sent: when it was said is worked out by the house. */
export const sayRoundSchema = roundDocumentSchema.omit({ saidAt: true })
export type SayRound = z.infer<typeof sayRoundSchema>
export const endRoundSchema = roundEndSchema
