/** Blind tastings and notes from a night, as they are asked for and answered. */

import { slugSchema } from '@conch/core/house/schema'
import { happenedSchema } from '@conch/core/schema/happened'
import {
  tasteNoteSchema,
  tastingDocumentSchema,
  tastingEventSchema,
  tastingKeySchema,
  tastingSheetSchema,
} from '@conch/core/tasting/tastingSchema'
import { z } from 'zod'

const idSchema = z.number().int().min(1).max(2_147_483_647)
const stampSchema = { savedBy: z.string(), savedAt: z.string() }

/** A tasting as it shall be; its codes and orders are drawn. Left out: whoever asks is the maker. */
export const makeTastingSchema = tastingDocumentSchema
  .pick({ question: true, subjects: true, tasters: true })
  .extend({ makerId: idSchema.optional() })
  .strict()

/** A tasting as anybody may see it: while it is open nobody learns what others wrote, or which glass is which. */
export const tastingSchema = z.object({
  id: idSchema,
  document: tastingDocumentSchema,
  ...stampSchema,
  /** What each subject is called. */
  names: z.array(z.string()),
  /** How many glasses each taster has judged. */
  judged: z.record(z.string(), z.number().int()),
  /** Sheets: of an open one those that whoever asks wrote; of a closed one all. */
  sheets: z.array(tastingSheetSchema),
  /** How it ended. */
  end: happenedSchema(tastingEventSchema).nullable(),
})
export const tastingListingSchema = z.object({
  id: idSchema,
  question: z.string(),
  names: z.array(z.string()),
  tasters: z.number().int(),
  maker: z.string(),
  savedAt: z.string(),
  end: z.enum(['closed', 'abandoned']).nullable(),
})
export const abandonTastingSchema = z.strictObject({ why: z.string().trim().min(3, 'say in a few words why').max(300) })
export { tastingKeySchema, tastingSheetSchema }

/** A tap and a word: what else it hangs on is known. */
export const sayNoteSchema = z.strictObject({
  says: tasteNoteSchema.options[0].shape.says,
  words: tasteNoteSchema.options[0].shape.words,
  well: slugSchema,
})
export const answerNotesSchema = tasteNoteSchema.options[1].omit({ kind: true }).strict()
export const saidNoteSchema = z.object({
  id: idSchema,
  drink: slugSchema,
  number: z.number().int(),
  document: tasteNoteSchema,
  ...stampSchema,
})

export type MakeTasting = z.infer<typeof makeTastingSchema>
export type Tasting = z.infer<typeof tastingSchema>
export type TastingListing = z.infer<typeof tastingListingSchema>
export type SaidNoteRow = z.infer<typeof saidNoteSchema>
