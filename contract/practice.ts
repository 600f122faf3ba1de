/** What people practised: their own, and for whoever leads a shift how far the others are. */

import { practiceDocumentSchema, testPourSchema } from '@conch/core/learn/practiceSchema'
import { z } from 'zod'

export const saidPracticeSchema = z.object({
  id: z.number().int(),
  document: practiceDocumentSchema,
  savedAt: z.string(),
})
export type SaidPractice = z.infer<typeof saidPracticeSchema>
export const practicesSchema = z.array(saidPracticeSchema)

/** How far each is, worked out in the house: what somebody answered, and how fast, stays theirs. */
export const practicePeopleSchema = z.array(
  z.object({
    person: z.number().int(),
    name: z.string(),
    /** What they remember, by question. */
    remembered: z.array(z.object({ item: z.string(), dueAt: z.number(), stabilityDays: z.number() })),
    /** Those that say what their hand is now, the oldest first. */
    sittings: z.array(z.object({ at: z.string(), pours: z.array(testPourSchema) })),
  }),
)
export type PracticePeople = z.infer<typeof practicePeopleSchema>

const [drill, pours] = practiceDocumentSchema.options
/** What is sent: when it was said is worked out by the house. */
export const sayPracticeSchema = z.discriminatedUnion('kind', [
  drill.omit({ saidAt: true }),
  pours.omit({ saidAt: true }),
])
export type SayPractice = z.infer<typeof sayPracticeSchema>
