/** What is out tonight, what that does to the menu, and what was chosen for one night. */

import { drinkDocumentSchema } from '@conch/core/drink/schema'
import { nameSchema, slugSchema } from '@conch/core/house/schema'
import { formOf } from '@conch/core/schema'
import { keysOf } from '@conch/core/schema/keysOf'
import { CHOICE_KINDS, outDocumentSchema } from '@conch/core/schema/tonight'
import { z } from 'zod'

const idSchema = z.number().int().min(1).max(2_147_483_647)

export const outMarkSchema = outDocumentSchema.extend({
  id: idSchema,
  /** What it is called. */
  name: z.string(),
  /** Of a lot: what it is a lot of. */
  ingredient: slugSchema.optional(),
  savedBy: z.string(),
  savedAt: z.string(),
})
export type OutMarkSaid = z.infer<typeof outMarkSchema>

/** The two ways in which a person ends it. */
export const endOutSchema = z.strictObject({ why: z.enum(['back', 'mistake']) })

const choiceDocument = z.strictObject({
  kind: z.enum(keysOf(CHOICE_KINDS)),
  /** How it is made tonight; of something instead. */
  document: formOf(drinkDocumentSchema).optional(),
  /** In a few words: “Orlop White for the Saltmarsh”. */
  words: z.string().trim().max(200),
})

export const chooseTonightSchema = z
  .strictObject({
    /** Where; null: at every well. */
    well: slugSchema.nullable(),
    kind: z.enum(keysOf(CHOICE_KINDS)),
    document: drinkDocumentSchema.optional(),
    words: z.string().trim().max(200),
    /** The choice that stood there when this was made; null: none. A newer one is not written over. */
    sees: idSchema.nullable(),
  })
  .superRefine((choice, ctx) => {
    if ((choice.kind === 'instead') !== (choice.document !== undefined))
      ctx.addIssue({
        code: 'custom',
        path: ['document'],
        message: 'something instead says how it is made; what is off is not made',
      })
  })
export type ChooseTonight = z.infer<typeof chooseTonightSchema>

export const tonightChoiceSchema = choiceDocument.extend({
  id: idSchema,
  drink: slugSchema,
  well: slugSchema.nullable(),
  /** The night for which it counts; ISO date. */
  night: z.iso.date(),
  /** What was missing when it was chosen: where all of it is back, it ends. */
  because: z.array(z.string()),
  savedBy: z.string(),
  savedAt: z.string(),
})
export type TonightChoice = z.infer<typeof tonightChoiceSchema>

const missingSchema = z.object({
  kind: z.enum(['ingredient', 'slot', 'glass', 'unknown']),
  of: z.string(),
  name: z.string(),
})

/** A drink of the menu at one well. */
export const drinkAtWellSchema = z.object({
  /** Made as it is; made otherwise tonight; dark, because something is missing; off, because somebody said so. */
  state: z.enum(['made', 'instead', 'dark', 'off']),
  missing: z.array(missingSchema),
  swapped: z.array(z.object({ slot: z.string(), insteadOf: z.string(), is: z.string() })),
  without: z.array(z.string()),
  choice: idSchema.optional(),
})
export type DrinkAtWell = z.infer<typeof drinkAtWellSchema>

export const tonightSchema = z.object({
  /** ISO date of the bar's day. */
  night: z.iso.date(),
  outs: z.array(outMarkSchema),
  outAt: z.record(
    slugSchema,
    z.object({ ingredients: z.array(slugSchema), glasses: z.array(slugSchema), fruits: z.array(z.string()) }),
  ),
  /** What the menu wants and the back bar itself calls out, or no longer made: nobody said so for tonight. */
  notInStock: z.array(z.object({ slug: slugSchema, name: z.string() })),
  /** What is poured, at each well, where it is not simply made. */
  drinks: z.array(
    z.object({
      drink: slugSchema,
      name: nameSchema,
      version: z.number().int(),
      at: z.record(slugSchema, drinkAtWellSchema),
    }),
  ),
  choices: z.array(tonightChoiceSchema),
})
export type Tonight = z.infer<typeof tonightSchema>

/** What is asked: at which well, of the menu alone or of the whole book, and what somebody wishes for. */
export const pourableQuery = z.strictObject({
  well: slugSchema,
  of: z.enum(['menu', 'book']),
  wish: z.string().max(200).optional(),
  /** What cannot be poured, too. */
  dark: z.literal('with').optional(),
})

export const pourableSchema = z.object({
  /** How the wish was understood. */
  understood: z.array(z.string()),
  /** How many drinks there are, how many of them are what is wished for, and how many of those can be poured. */
  total: z.number().int(),
  fitting: z.number().int(),
  pourable: z.number().int(),
  /** Those that nobody may be told of for an allergen, because it is not known: somebody has to ask. */
  unsure: z.number().int(),
  /** Some are being computed anew: asked again in a moment, more is known. */
  isComputing: z.boolean(),
  drinks: z.array(
    drinkAtWellSchema.pick({ state: true }).extend({
      drink: slugSchema,
      name: z.string(),
      version: z.number().int(),
      isPoured: z.boolean(),
      /** Why it is not simply made. */
      words: z.string(),
      strengthPct: z.number().optional(),
      glass: z.string().optional(),
      serves: z.number(),
      allergens: z.array(z.string()),
    }),
  ),
})
export type Pourable = z.infer<typeof pourableSchema>

/** What one marks, with what it is called, for a list to go through. */
export const markableSchema = z.object({
  kind: outDocumentSchema.shape.kind,
  of: slugSchema,
  name: z.string(),
  /** What it is, in a word: a bottle’s kind, or `glass`. */
  what: z.string(),
  /** Drinks of the menu that want it. */
  drinks: z.array(z.string()),
})
export const markablesSchema = z.array(markableSchema)
export type Markable = z.infer<typeof markableSchema>
