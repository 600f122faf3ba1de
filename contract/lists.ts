/** Lists: what is searched, sorted and read a page at a time, and what stands in an address for it. */

import { MEASURE_NAMES } from '@conch/core/drink'
import { predictionsSchema } from '@conch/core/drink/resultSchema'
import { drinkDocumentSchema, standardSchema } from '@conch/core/drink/schema'
import { slugSchema } from '@conch/core/house/schema'
import { versionOriginSchema } from '@conch/core/lineage/sourceSchema'
import { keptGlassSchema } from '@conch/core/menu/keptGlassSchema'
import { z } from 'zod'
import { drinkListingSchema } from './messages.ts'

/** So many slugs in one address. */
const MOST_SLUGS = 200
export const MOST_ROWS = 100

/** `of=one,two`. */
export const slugsQuery = z.strictObject({
  of: z
    .string()
    .transform((text) => text.split(',').filter(Boolean))
    .pipe(z.array(slugSchema).max(MOST_SLUGS)),
})

/** Which rows of a list, and in which order. */
export const pageQuery = <const S extends readonly [string, ...string[]]>(sorts: S) =>
  z.strictObject({
    words: z.string().max(200).optional(),
    sort: z.enum(sorts).optional(),
    down: z.literal('yes').optional(),
    from: z.coerce.number().int().min(0).max(1_000_000).default(0),
    limit: z.coerce.number().int().min(1).max(MOST_ROWS).default(MOST_ROWS),
  })

/** Some rows of a list, and how many there are in all. */
export const pageOf = <R extends z.ZodType>(row: R) =>
  z.object({ total: z.number().int(), from: z.number().int(), rows: z.array(row) })

/* Drinks */
export const drinksQuery = pageQuery(['name', 'poured', 'versions', 'changed']).extend({
  /** Just these. */
  of: slugsQuery.shape.of.optional(),
  hidden: z.literal('with').optional(),
  made: z.literal('yes').optional(),
})
export const drinkPageSchema = pageOf(drinkListingSchema).extend({
  /** How many are out of the way. */
  hidden: z.number().int(),
  /** Nothing has the words that were asked for; these are near. */
  isNear: z.boolean(),
})
export type DrinkPage = z.infer<typeof drinkPageSchema>

/* Versions */
/** `of=slug@3,slug@2`. */
export const versionsQuery = z.strictObject({
  of: z
    .string()
    .transform((text) => text.split(',').filter(Boolean))
    .pipe(
      z
        .array(z.string().regex(/^[a-z0-9-]{1,80}@[1-9]\d{0,8}$/, 'a version is written as drink@number'))
        .max(MOST_ROWS),
    )
    .transform((all) =>
      all.map((text) => {
        const [drink = '', number] = text.split('@')
        return { drink, version: Number(number) }
      }),
    ),
})
/** A version as lists and charts need it. */
export const listedVersionSchema = z.object({
  label: z.string(),
  era: z.string(),
  origin: versionOriginSchema.nullable(),
  savedAt: z.string(),
  drink: slugSchema,
  number: z.number().int(),
  document: drinkDocumentSchema,
})
export type ListedVersion = z.infer<typeof listedVersionSchema>
/** Versions that pour a sealed blend's very bottles in its very shares. */
export const inTheOpenSchema = z.array(z.object({ drink: slugSchema, name: z.string(), number: z.number().int() }))

/* The menu */
const versionNumberSchema = z.number().int().min(1).max(2_147_483_647)

/** Figures as a line of a menu shows them. */
const figuresSchema = z.partialRecord(z.enum(MEASURE_NAMES), z.number())

/** A drink at a well now, as it is kept; old while it is computed again, absent before it ever was. */
const menuGlassSchema = z.object({
  predictions: predictionsSchema,
  /** What keeps it from being poured, if anything does. */
  stops: z.array(z.object({ text: z.string(), isSafety: z.boolean() })),
  /** Why it cannot be made here, if it cannot. */
  problem: z.string().optional(),
  isOld: z.boolean(),
})

export const pouredMenuSchema = z.object({
  edition: z.object({ number: versionNumberSchema, name: z.string(), publishedAt: z.string() }).nullable(),
  chapters: z.array(
    z.object({
      name: z.string(),
      drinks: z.array(
        z.object({
          drink: slugSchema,
          name: z.string(),
          version: versionNumberSchema,
          standard: standardSchema,
          /** What the edition locked at this well. */
          locked: figuresSchema.optional(),
          now: menuGlassSchema.optional(),
        }),
      ),
    }),
  ),
})

export const nextMenuSchema = z.object({
  /** What the newest edition pours, in its order. */
  poured: z.array(
    z.object({
      drink: slugSchema,
      name: z.string(),
      version: versionNumberSchema,
      chapter: z.string(),
      locked: figuresSchema.optional(),
    }),
  ),
  /** What is planned, as it would be poured now. */
  planned: z.array(
    z.object({
      drink: slugSchema,
      name: z.string(),
      version: versionNumberSchema,
      versions: z.array(versionNumberSchema),
      now: menuGlassSchema.optional(),
    }),
  ),
})

/** Drinks as they are shown, each with what it pours at one well. */
export const shownDrinkSchema = z.object({
  drink: slugSchema,
  name: z.string(),
  /** Null: a draft that never was a version. */
  version: versionNumberSchema.nullable(),
  isPoured: z.boolean(),
  isPlanned: z.boolean(),
  isOld: z.boolean(),
  serves: keptGlassSchema.shape.serves,
  pours: keptGlassSchema.shape.pours,
  stations: keptGlassSchema.shape.stations,
  glass: keptGlassSchema.shape.glass,
})

export const shownDrinksSchema = z.object({
  total: z.number().int(),
  /** How many drinks are still to be computed for the first time: they may belong here, too. */
  waiting: z.number().int(),
  drinks: z.array(shownDrinkSchema),
})

export type PouredMenu = z.infer<typeof pouredMenuSchema>
export type NextMenu = z.infer<typeof nextMenuSchema>
export type MenuGlass = z.infer<typeof menuGlassSchema>
export type ShownDrink = z.infer<typeof shownDrinkSchema>
