import { z } from 'zod'
import { predictionsSchema } from '../drink/resultSchema.ts'
import { textSchema } from '../schema/primitives.ts'

const numberSchema = z.number().int().min(1).max(2_147_483_647)

/** What was decided about a drink, with everything as it stood on the day. Figures are those that everybody may see. */
export const decisionDocumentSchema = z
  .object({
    /** What was poured or planned before; null: it was not. */
    instead: numberSchema.nullable(),
    reason: textSchema(1000),
    /** What was most different from it, in a sentence; '' where there was nothing to compare. */
    changed: z.string().max(1000),
    /** What was in the glass at each well, of this version and of the one before. */
    byWell: z.record(z.string(), z.object({ now: predictionsSchema, before: predictionsSchema.optional() }).strict()),
    /** The tasting that it rests on. */
    tasting: numberSchema.optional(),
  })
  .strict()
export type DecisionDocument = z.infer<typeof decisionDocumentSchema>
