import { keysOf } from '@conch/core/schema/keysOf'
import { z } from 'zod'
import { ERRORS } from './errors.ts'

const problemSchema = z.object({
  type: z.string(),
  title: z.string(),
  status: z.number().int(),
  detail: z.string(),
  code: z.enum(keysOf(ERRORS)),
  fields: z.array(z.object({ field: z.string(), message: z.string() })).optional(),
  current: z.unknown().optional(),
})

/** How far an import has got. */
export const importStateSchema = z.object({
  id: z.string(),
  state: z.enum(['running', 'done', 'refused']),
  /** Lines read, and how many there are. */
  done: z.number().int(),
  of: z.number().int(),
  came: z
    .object({
      drinks: z.number().int(),
      versions: z.number().int(),
      editions: z.number().int(),
      /** Figures of editions that do not follow from their own locks. */
      remarks: z.array(z.string()),
      /** Who can open the house that came, once they have a passphrase. */
      managers: z.array(z.string()).default([]),
    })
    .optional(),
  problem: problemSchema.optional(),
})
export type ImportProgress = z.infer<typeof importStateSchema>

export const verifyReportSchema = z.object({
  events: z.number().int(),
  /** Rows of history that were looked at. */
  rows: z.number().int(),
  problems: z.array(z.string()),
  editions: z.array(
    z.object({
      number: z.number().int(),
      name: z.string(),
      how: z.enum(['recomputed', 'storedOnly']),
      problems: z.array(z.string()),
    }),
  ),
})
export type VerifyReport = z.infer<typeof verifyReportSchema>
