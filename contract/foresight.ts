/** What a change will do, said before it is saved, and kept with it. */

import { MEASURE_NAMES } from '@conch/core/drink'
import { glassSchema, ingredientSchema, settingsSchema, slugSchema, wellSchema } from '@conch/core/house/schema'
import { formOf } from '@conch/core/schema'
import { slotSchema } from '@conch/core/schema/palate'
import { z } from 'zod'

/** The thing as it would be saved. What is not finished may be asked about. */
export const foreseeSchema = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('ingredients'), document: formOf(ingredientSchema) }),
  z.strictObject({ kind: z.literal('slots'), document: formOf(slotSchema) }),
  z.strictObject({ kind: z.literal('glasses'), document: formOf(glassSchema) }),
  z.strictObject({ kind: z.literal('wells'), document: formOf(wellSchema) }),
  z.strictObject({ kind: z.literal('settings'), document: formOf(settingsSchema) }),
])
export type Foresee = z.infer<typeof foreseeSchema>

const standingSchema = z.enum(['inside', 'edge', 'below', 'above', 'open'])

export const foresightSchema = z.object({
  /** How far the chain was when it was computed. */
  asOf: z.number().int(),
  /** A lot of it is poured, whose figures stay: all of this comes with the next one. */
  isFromNextLot: z.boolean(),
  /** Mixes and blends that hold it, at any depth, nearest first. */
  mixes: z.array(z.object({ slug: slugSchema, name: z.string(), level: z.number().int() })),
  /** Drinks that stand on it, of all that are shown; and how many of these were looked at, the menu first. */
  total: z.number().int(),
  looked: z.number().int(),
  /** Those that are another drink by it. */
  drinks: z.array(
    z.object({
      drink: slugSchema,
      name: z.string(),
      version: z.number().int(),
      isPoured: z.boolean(),
      isPlanned: z.boolean(),
      at: z.array(
        z.object({
          well: slugSchema,
          moved: z.array(
            z.object({
              measure: z.enum(MEASURE_NAMES),
              was: z.number(),
              is: z.number(),
              wasStanding: standingSchema,
              isStanding: standingSchema,
            }),
          ),
          said: z.array(z.string()),
          unsaid: z.array(z.string()),
          allergensIn: z.array(z.string()),
          allergensOut: z.array(z.string()),
          /** By how much a serve is dearer, in the house's currency; and what it costs then, where all of it is priced. */
          cost: z.object({ by: z.number(), is: z.number().optional() }).optional(),
        }),
      ),
    }),
  ),
  /** Published editions with a drink that stands on it: they keep the figures they had. */
  editions: z.array(z.object({ number: z.number().int(), name: z.string() })),
})
export type Foresight = z.infer<typeof foresightSchema>
