/** The lines of a copy: a head, rows, and a foot with a hash over everything before it. */

import { z } from 'zod'

export const COPY_FORMAT = 'lazy-conch/copy'
export const COPY_VERSION = 1

export const headSchema = z
  .object({
    format: z.literal(COPY_FORMAT),
    formatVersion: z.number().int(),
    /** How many steps the database's schema had taken. */
    schemaStep: z.number().int(),
    /** The highest revision that a draft ever had: none is given twice. */
    draftRevision: z.number().int(),
    /** Rows by table, in the order in which they follow. */
    counts: z.record(z.string(), z.number().int()),
  })
  .strict()
export type CopyHead = z.infer<typeof headSchema>

export const rowLineSchema = z.object({ table: z.string(), row: z.record(z.string(), z.unknown()) }).strict()

export const footSchema = z
  .object({
    end: z.literal(COPY_FORMAT),
    /** Lines before this one. */
    lines: z.number().int(),
    /** SHA-256 over all bytes before this line, hex. */
    sha256: z.string(),
  })
  .strict()
