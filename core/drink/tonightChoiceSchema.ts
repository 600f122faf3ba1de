import { z } from 'zod'
import { keysOf } from '../schema/keysOf.ts'
import { textSchema } from '../schema/primitives.ts'
import { CHOICE_KINDS } from '../schema/tonight.ts'
import { drinkDocumentSchema } from './schema.ts'

/** What was chosen for a drink for one night, as it is kept. */
export const tonightChoiceDocumentSchema = z
  .object({
    kind: z.enum(keysOf(CHOICE_KINDS)),
    /** How it is made tonight; of something instead. */
    document: drinkDocumentSchema.optional(),
    words: textSchema(200),
    /** What was missing, as `kind/of`: it counts while any of it is. */
    because: z.array(z.string().max(120)).max(40),
  })
  .strict()
export type TonightChoiceDocument = z.infer<typeof tonightChoiceDocumentSchema>
