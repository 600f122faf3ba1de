/** The shelf: parts of it with all that they need, and lists. */

import { SHELF_SHOWN, SHELF_SORTS } from '@conch/core/house'
import { ingredientSchema, slugSchema } from '@conch/core/house/schema'
import { lotSchema } from '@conch/core/lots/lotSchema'
import { keysOf } from '@conch/core/schema/keysOf'
import { flightSchema, styleProfileSchema } from '@conch/core/schema/palate'
import { z } from 'zod'
import { pageOf, pageQuery, slugsQuery } from './lists.ts'

const shownSchema = z.enum(keysOf(SHELF_SHOWN))

/** Which part of the shelf: one of these ways to say it. */
export const shelfQuery = z
  .strictObject({
    /** Just these. */
    of: slugsQuery.shape.of.optional(),
    /** What these words lead to. */
    words: z.string().max(200).optional(),
    /** What a line of a spec with these words may mean: whatever has some of them, best first. */
    meant: z.string().max(200).optional(),
    /** Everything of a kind, as far as one answer goes. */
    shown: shownSchema.optional(),
    /** The nearest to a slot or a bottle: `slot:slug` or `bottle:slug`. */
    near: z
      .string()
      .regex(/^(slot|bottle):[a-z0-9-]{1,80}$/, 'is written as slot:name or bottle:name')
      .optional(),
    /** What is sweet, things like this one first. */
    sweetLike: slugSchema.optional(),
    /** What is stronger than this without being made here, the strongest first, % ABV; and the acids that are weighed. */
    strongerThan: z.coerce.number().min(0).max(100).optional(),
    limit: z.coerce.number().int().min(1).max(150).default(150),
  })
  .refine(
    ({ limit: _, ...ways }) => Object.values(ways).filter((way) => way !== undefined).length === 1,
    'say which part of the shelf in one way: of, words, meant, shown, near, sweetLike or strongerThan',
  )
export type ShelfAsked = z.input<typeof shelfQuery>

export const fruitYieldSchema = z.object({
  mlPerFruit: z.number(),
  spreadMl: z.number(),
  pressings: z.number().int(),
  basis: z.enum(['measured', 'assumed']),
})

/** A part of the shelf, with what it is made of and whatever is called alike. */
export const shelfPartSchema = z.object({
  /** The last event that a part can follow from: of two parts the one with the greater number is the newer. */
  sequence: z.number().int(),
  /** What was asked for, best or first of all; the rest is needed by it. */
  picked: z.array(slugSchema),
  /** How many there would be. */
  total: z.number().int(),
  /** Nothing has the words that were asked for; these are near. */
  isNear: z.boolean(),
  ingredients: z.array(ingredientSchema),
  /** By slug, in which place each stands on the shelf. */
  positions: z.record(slugSchema, z.number().int()),
  revisions: z.record(slugSchema, z.number().int()),
  /** The lot that stands for each that has one. */
  lots: z.array(lotSchema),
  /** What tasters say, by slug. */
  tasted: z.record(slugSchema, styleProfileSchema),
  fruitYields: z.record(slugSchema, fruitYieldSchema),
})

export const shelfRowsQuery = pageQuery(keysOf(SHELF_SORTS)).extend({ shown: shownSchema.default('all') })
export const shelfRowsSchema = pageOf(
  z.object({
    /** With the figures that it has today. */
    ingredient: ingredientSchema,
    /** Its name among others of the same. */
    name: z.string(),
    revision: z.number().int(),
    /** How many mixes hold it, at any depth. */
    inMixes: z.number().int(),
  }),
).extend({
  isNear: z.boolean(),
  counts: z.object({
    all: z.number().int(),
    homework: z.number().int(),
    mixes: z.number().int(),
    blends: z.number().int(),
    openLots: z.number().int(),
  }),
})

/** Lots: the newest first unless a sort is asked for. */
const LOTS_AT_ONCE = 50
export const lotsQuery = pageQuery(['number', 'useBy', 'name']).extend({
  /** Only those of one thing. */
  of: slugSchema.optional(),
  /** Only those that are there. */
  open: z.literal('yes').optional(),
  limit: z.coerce.number().int().min(1).max(LOTS_AT_ONCE).default(LOTS_AT_ONCE),
})
export const lotPageSchema = pageOf(lotSchema).extend({
  /** How many are there, neither used up nor discarded. */
  open: z.number().int(),
  /** Nothing has the words that were asked for; these are near. */
  isNear: z.boolean(),
})
export type LotPage = z.infer<typeof lotPageSchema>

/** Tastings, newest first: of one bottle, or the last ones. */
export const flightsQuery = z.strictObject({
  of: slugSchema.optional(),
  limit: z.coerce.number().int().min(1).max(100).default(40),
})
export const flightPageSchema = z.object({ total: z.number().int(), flights: z.array(flightSchema) })

/** The mixes that hold something, nearest first. */
export const usedInSchema = z.object({
  total: z.number().int(),
  mixes: z.array(z.object({ slug: slugSchema, name: z.string(), level: z.number().int(), isBlend: z.boolean() })),
})
export type UsedIn = z.infer<typeof usedInSchema>
export type ShelfPart = z.infer<typeof shelfPartSchema>
export type ShelfRows = z.infer<typeof shelfRowsSchema>

/** What others know of a sealed mix, for whoever may open it. */
export const othersKnowSchema = z.object({
  figures: z.object({ abvPct: z.number(), sugarGPer100Ml: z.number(), acidGPer100Ml: z.number() }),
  allergens: z.array(z.string()),
  /** The formula makes something else by now: others learn of it when it is saved again. */
  isOld: z.boolean(),
  isAllergenUnsure: z.boolean(),
  /** Fillings that fit all of it, the amounts being known; no more are counted than are enough. */
  ways: z.number().int(),
  /** There are no others. */
  isWhole: z.boolean(),
})
export type OthersKnow = z.infer<typeof othersKnowSchema>
