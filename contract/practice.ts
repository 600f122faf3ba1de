/** What people practised: their own, and for whoever leads a shift how far the others are. */

import { practiceDocumentSchema } from '@conch/core/learn/practiceSchema'
import { z } from 'zod'

export const saidPracticeSchema = z.object({
  id: z.number().int(),
  document: practiceDocumentSchema,
  savedAt: z.string(),
})
export type SaidPractice = z.infer<typeof saidPracticeSchema>
export const practicesSchema = z.array(saidPracticeSchema)

export const practicePeopleSchema = z.array(
  z.object({ person: z.number().int(), name: z.string(), practices: practicesSchema }),
)
export type PracticePeople = z.infer<typeof practicePeopleSchema>

const [drill, pours] = practiceDocumentSchema.options
/** What is sent: when it was said is worked out by the house. */
export const sayPracticeSchema = z.discriminatedUnion('kind', [
  drill.omit({ saidAt: true }),
  pours.omit({ saidAt: true }),
])
export type SayPractice = z.infer<typeof sayPracticeSchema>
