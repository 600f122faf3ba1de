/** One made batch: a mix, or juice pressed. What is written when it is made never changes; what happens to it is added. */

import { z } from 'zod'
import type { Liquid } from '../liquid/index.ts'
import { happenedSchema } from '../schema/happened.ts'
import { ALLERGENS } from '../schema/lists.ts'
import { nameSchema, slugSchema, textSchema } from '../schema/primitives.ts'
import { RANGES, within } from '../schema/ranges.ts'
import { recipeSchema } from '../schema/recipe.ts'

const massSchema = z.number().min(0).max(500_000)
const liquidSchema: z.ZodType<Liquid, Liquid> = z.object({
  waterG: massSchema,
  ethanolG: massSchema,
  sugarG: massSchema,
  acidG: massSchema,
  fatG: massSchema,
  otherG: massSchema,
})

export const lotDocumentSchema = z
  .object({
    /** The recipe as it was; a pressed juice has none. */
    recipe: recipeSchema.optional(),
    /** On the recipe as written. Lots of long ago do not say. */
    factor: z.number().positive().max(10_000).optional(),
    /** What was to be weighed in, and what was, g. */
    weighed: z
      .array(
        z.object({ ingredient: slugSchema, name: nameSchema, plannedG: massSchema, actualG: massSchema.nullable() }),
      )
      .max(24),
    /** Of pressed juice: how many fruit went in. */
    pressed: z
      .object({ fruitCount: z.number().positive().max(10_000), size: textSchema(40).optional() })
      .strict()
      .optional(),
    /** Of a mix: what it was when it was made, by its weights and its components of that day, g. */
    made: liquidSchema.optional(),
    /** What the recipe says comes out of the planned weights. */
    theory: z.object({
      massG: z.number(),
      volumeMl: z.number(),
      brix: z.number(),
      abvPct: z.number(),
      sugarGPer100Ml: z.number(),
      acidGPer100Ml: z.number(),
    }),
    /** When it was pressed or made, to the minute, where it is written down on the same day. */
    madeAt: z.iso.datetime().optional(),
    /** The lots that went in, and those that had gone into them, as they stood that day. */
    madeWith: z
      .array(
        z
          .object({ ingredient: slugSchema, name: nameSchema, lot: z.number().int().min(1), useBy: z.iso.date() })
          .strict(),
      )
      .max(200)
      .optional(),
    allergens: z.array(z.enum(ALLERGENS)),
    note: textSchema(500).optional(),
  })
  .strict()
export type LotDocument = z.infer<typeof lotDocumentSchema>

export const measuredSchema = z
  .object({
    massG: z.number().positive().max(500_000),
    volumeMl: z.number().positive().max(500_000),
    brix: within(RANGES.brix),
    abvPct: within(RANGES.abvPct),
    acidGPer100Ml: within(RANGES.acidGPer100Ml),
    pH: within(RANGES.pH),
  })
  .partial()
  .strict()

export const lotEventSchema = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('measured'), measured: measuredSchema }).strict(),
  z.object({ kind: z.literal('labelled'), copies: z.number().int().min(1).max(200) }).strict(),
  z.object({ kind: z.literal('usedUp') }).strict(),
  /** A wrong tap: it is still there. */
  z.object({ kind: z.literal('reopened') }).strict(),
  z.object({ kind: z.literal('discarded'), reason: textSchema(300).min(3, 'say in a few words why') }).strict(),
])
export type LotEvent = z.infer<typeof lotEventSchema>

export const lotSchema = z.object({
  id: z.number().int().min(1),
  ingredient: slugSchema,
  name: nameSchema,
  madeOn: z.iso.date(),
  madeBy: textSchema(80),
  useBy: z.iso.date().nullable(),
  document: lotDocumentSchema,
  events: z.array(happenedSchema(lotEventSchema)),
})
export type Lot = z.infer<typeof lotSchema>
