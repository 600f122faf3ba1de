/** A sealed batch that two people weigh: written down when it is dealt, and never changed. */

import { z } from 'zod'
import { nameSchema, slugSchema } from '../schema/primitives.ts'

export const splitPrepDocumentSchema = z
  .object({
    factor: z.number().positive().max(10_000),
    sheets: z
      .array(
        z
          .object({
            hand: nameSchema,
            lines: z.array(z.object({ ingredient: slugSchema, name: nameSchema, massG: z.number().min(0) }).strict()),
          })
          .strict(),
      )
      .length(2),
  })
  .strict()
export type SplitPrepDocument = z.infer<typeof splitPrepDocumentSchema>
