import { z } from 'zod'
import { textSchema } from '../schema/primitives.ts'

/** How sure a claim is. */
export const CERTAINTIES = ['documented', 'attributed', 'disputed', 'hearsay'] as const

/** Where a version was found, and what that source says of it. Sources may contradict each other. */
export const versionSourceSchema = z
  .object({
    kind: z.enum(['book', 'card', 'menu', 'notebook', 'told', 'contest', 'other']),
    title: textSchema(200).min(1, 'a source needs a title'),
    page: textSchema(40).optional(),
    year: textSchema(40).optional(),
    saidBy: textSchema(120).optional(),
    claims: z
      .array(
        z
          .object({
            about: z.enum(['creator', 'place', 'year', 'contest']),
            says: textSchema(200).min(1),
            certainty: z.enum(CERTAINTIES),
          })
          .strict(),
      )
      .max(20)
      .default([]),
  })
  .strict()
export type VersionSource = z.infer<typeof versionSourceSchema>
