/** What somebody practised, as the house keeps it: one row for each sitting. */

import { z } from 'zod'
import { slugSchema } from '../schema/primitives.ts'

export const GRADES = ['again', 'hard', 'good'] as const
export type Grade = (typeof GRADES)[number]

/** What a question is about, and its answer when it was asked: another answer is another thing to learn. */
export const itemIdSchema = z
  .string()
  .max(200)
  .regex(/^[a-z]+:[a-z0-9-]+(?::[a-z0-9-]+)?=.{0,140}$/u, 'a question is named like amount:drink:bottle=22.5')

export const answerSchema = z
  .object({
    item: itemIdSchema,
    grade: z.enum(GRADES),
    /** From the question to the answer, s. */
    seconds: z.number().min(0).max(3600),
    at: z.iso.datetime(),
  })
  .strict()
export type LearnAnswer = z.infer<typeof answerSchema>

export const testPourSchema = z
  .object({ wantedMl: z.number().positive().max(200), gotMl: z.number().min(0).max(500) })
  .strict()
export type TestPour = z.infer<typeof testPourSchema>

const saidAt = z.iso.datetime().optional()

export const practiceDocumentSchema = z.discriminatedUnion('kind', [
  z
    .object({
      kind: z.literal('drill'),
      well: slugSchema,
      answers: z.array(answerSchema).min(1, 'nothing was answered').max(400),
      saidAt,
    })
    .strict(),
  z
    .object({
      kind: z.literal('pours'),
      /** On which scale: the one that ships with the product is made up. */
      scale: z.enum(['simulated', 'real']),
      pours: z.array(testPourSchema).min(4, 'four pours say something of a hand; fewer do not').max(200),
      saidAt,
    })
    .strict(),
])
export type PracticeDocument = z.infer<typeof practiceDocumentSchema>
