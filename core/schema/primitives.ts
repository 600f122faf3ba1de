/** The small schemas that everything else is put together from. */

import { z } from 'zod'

export { keysOf } from './keysOf.ts'

export const slugSchema = z
  .string()
  .regex(/^[a-z0-9]+(?:-[a-z0-9]+)*$/, 'use small letters, digits and single hyphens, like "dark-gold-rum"')
  .max(80)

/** Words of a person, trimmed, of so many characters at most. */
export const textSchema = (most: number) => z.string().trim().max(most)

export const nameSchema = z.string().trim().min(1, 'give it a name').max(120)

/**
 * How a figure is known. `recipe`: computed from the recipe of a mix, all of whose parts are known. `unknown`: nobody
 * has said; what is computed with it is without it.
 */
export const BASES = ['measured', 'label', 'recipe', 'assumed', 'unknown'] as const

/** A figure and how we know it. */
export const figureSchema = (low: number, high: number) =>
  z.object({
    value: z.number().min(low).max(high),
    basis: z.enum(BASES),
    on: z.iso.date().optional(),
    by: z.string().max(80).optional(),
  })

export type Figure = z.infer<ReturnType<typeof figureSchema>>
