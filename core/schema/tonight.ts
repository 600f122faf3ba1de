/** What is not there tonight, and what becomes of the drinks that want it. */

import { z } from 'zod'
import { keysOf, slugSchema } from './primitives.ts'

/** What can be out: what is poured, one lot of it, a fruit before it is pressed or cut, a glass. */
export const OUT_KINDS = { ingredient: 'bottle or mix', lot: 'lot', fruit: 'fruit', glass: 'glass' } as const
export type OutKind = keyof typeof OUT_KINDS

/** Nothing left, or not for long. */
export const OUT_LEVELS = { out: 'out', low: 'low' } as const
export type OutLevel = keyof typeof OUT_LEVELS

export const outDocumentSchema = z
  .object({
    kind: z.enum(keysOf(OUT_KINDS)),
    /** The slug of a bottle, mix or glass, the number of a lot, or a fruit's name as one word: `blood-orange`. */
    of: slugSchema,
    /** Where; null: in the whole house. */
    well: slugSchema.nullable(),
    level: z.enum(keysOf(OUT_LEVELS)),
    /** When it was said, where the house heard of it later: of a device that stood alone. */
    saidAt: z.iso.datetime().optional(),
  })
  .strict()
export type OutDocument = z.infer<typeof outDocumentSchema>

/** How it ended: it is back, it was a wrong tap, something newer was said of it, or a new lot was made. */
export const OUT_ENDS = { back: 'is back', mistake: 'a wrong tap', newer: 'said anew', lot: 'a new lot' } as const
export const outEndSchema = z.object({ why: z.enum(keysOf(OUT_ENDS)) }).strict()
export type OutEnd = z.infer<typeof outEndSchema>

/** What a lead can do for a drink for one night. */
export const CHOICE_KINDS = { instead: 'something instead', off: 'off' } as const
export type ChoiceKind = keyof typeof CHOICE_KINDS

/** How it ended before its night did. */
export const choiceEndSchema = z.object({ why: z.enum(['ended', 'newer']) }).strict()
