/** The open format of a drink. docs/formats.md and its JSON Schema are made from this. */

import { z } from 'zod'
import { ICE_FILLS, POURS } from '../cold/index.ts'
import {
  iceKindSchema,
  methodSchema,
  nameSchema,
  profileSchema,
  slugSchema,
  stageParametersSchema,
  textSchema,
} from '../house/schema.ts'
import { UNIT_NAMES } from '../measure/index.ts'
import { keysOf } from '../schema/keysOf.ts'
import { RANGES, wholeWithin, within } from '../schema/ranges.ts'
import { type Band, MEASURE_NAMES, type Standard } from './standard.ts'

export const amountSchema = z.object({
  value: z.number().positive().max(1000),
  unit: z.enum(UNIT_NAMES),
  asWritten: textSchema(60).optional(),
})

/** Figures carried by the pour itself, for something that is not in the house. */
export const inlineFiguresSchema = z
  .object({
    name: nameSchema.optional(),
    abvPct: within(RANGES.abvPct).default(0),
    sugarGPer100Ml: within(RANGES.sugarGPer100Ml).default(0),
    acidGPer100Ml: within(RANGES.acidGPer100Ml).default(0),
    fatGPer100Ml: within(RANGES.fatGPer100Ml).optional(),
    otherGPer100Ml: z.number().min(0).max(100).optional(),
  })
  .strict()

export const pourSchema = z
  .object({
    /** Slug of something in the house: this and no other… */
    ingredient: slugSchema.optional(),
    /** …or of a slot: whatever the well pours in it… */
    slot: slugSchema.optional(),
    /** …or its own figures. */
    figures: inlineFiguresSchema.optional(),
    amount: amountSchema.optional(),
    /** The volume outright, instead of an amount, ml. */
    volumeMl: z.number().positive().max(1000).optional(),
    /** Chilled with the rest, added in the glass, or floated on top. */
    into: z.enum(['tin', 'glass', 'float']).default('tin'),
    temperatureC: z.number().min(-30).max(40).optional(),
    note: textSchema(200).optional(),
  })
  .strict()
  .superRefine((pour, ctx) => {
    if ([pour.ingredient, pour.slot, pour.figures].filter((x) => x !== undefined).length !== 1) {
      ctx.addIssue({
        code: 'custom',
        path: ['ingredient'],
        message: 'name an ingredient or a slot of the house, or give figures of its own: one of the three',
      })
    }
    if ((pour.amount === undefined) === (pour.volumeMl === undefined)) {
      ctx.addIssue({ code: 'custom', path: ['amount'], message: 'give an amount or a volumeMl: one of the two' })
    }
  })

export const icePortionSchema = z
  .object({
    kind: iceKindSchema,
    massG: z.number().min(0).max(2000),
    /** As it was written, where not in grams: "2 scoops", "to the line". */
    asWritten: textSchema(60).optional(),
    /** The grams are what fills the glass so far; when the drink changes they follow. */
    fill: z.enum(ICE_FILLS).optional(),
  })
  .strict()
const iceSchema = z.array(icePortionSchema).max(4)

export const stageSchema = z
  .object({
    method: methodSchema.optional(),
    /** A station of the well by slug, or "well/station". Decides the method, too. */
    station: z
      .string()
      .regex(/^[a-z0-9-]+(?:\/[a-z0-9-]+)?$/, 'name a station like "mixer" or "hearth/mixer"')
      .optional(),
    ice: iceSchema.optional(),
    durationS: within(RANGES.durationS).optional(),
    /** Of a machine that has several, by its slug: every well's machines have their own, so mostly said by well. */
    speed: slugSchema.optional(),
    /** The seconds are worked off in this many bursts, with a rest between two, s. */
    bursts: wholeWithin(RANGES.bursts).optional(),
    restS: within(RANGES.restS).optional(),
    /** Ice first: so long the drink lies on it before the work begins, s. Ice last: 0. */
    waitS: within(RANGES.iceWaitS).optional(),
    /** How the stage ends. */
    pour: z.enum(keysOf(POURS)).optional(),
    /** What differs at a well, by the well's slug. */
    byWell: z
      .record(
        slugSchema,
        z
          .object({
            ice: iceSchema.optional(),
            durationS: within(RANGES.durationS).optional(),
            speed: slugSchema.optional(),
          })
          .strict(),
      )
      .optional(),
    /** Each replaces one value of the station, alone. */
    parameters: stageParametersSchema.optional(),
  })
  .strict()

const bandSchema: z.ZodType<Band, Band> = z
  .object({ low: within(RANGES.windowEnd), high: within(RANGES.windowEnd) })
  .refine((b) => b.low <= b.high, 'the low end must not be above the high end')

export const standardSchema: z.ZodType<Standard, Standard> = z.partialRecord(z.enum(MEASURE_NAMES), bandSchema)

export const garnishSchema = z
  .object({
    text: textSchema(120).min(1),
    /** On the glass to be looked at, not to be eaten. */
    isFood: z.boolean().default(true),
  })
  .strict()

export const drinkDocumentSchema = z
  .object({
    format: z.literal('lazy-conch/drink').default('lazy-conch/drink'),
    formatVersion: z.literal(1).default(1),
    name: nameSchema,
    /** The well to compute on; left out: the house's first. */
    well: slugSchema.optional(),
    serves: wholeWithin(RANGES.serves).default(1),
    /** Size of a part, for specs written in parts, ml. */
    partMl: z.number().positive().max(500).optional(),
    /** Of everything before ice; left out: from where each thing is kept. */
    startTemperatureC: z.number().min(-20).max(40).optional(),
    pours: z.array(pourSchema).min(1, 'a drink needs a pour').max(24),
    stages: z.array(stageSchema).max(4).default([]),
    glass: slugSchema.optional(),
    glassByWell: z.record(slugSchema, slugSchema).optional(),
    /** A vessel outright, instead of one of the house. */
    glassProfile: profileSchema.optional(),
    /** Ice added in the glass, under or over the drink. */
    serveIce: iceSchema.default([]),
    serveIceByWell: z.record(slugSchema, iceSchema).optional(),
    garnish: z.array(garnishSchema).max(12).default([]),
    /** A finish from a bottle that is burnt: bitters through a flame and the like. */
    hasFlame: z.boolean().default(false),
    note: textSchema(2000).optional(),
    standard: standardSchema.default({}),
  })
  .strict()

export type DrinkDocument = z.infer<typeof drinkDocumentSchema>
/** A drink as it may be written, defaults left out. */
export type DrinkDocumentInput = z.input<typeof drinkDocumentSchema>
export type PourLine = z.infer<typeof pourSchema>
export type Stage = z.infer<typeof stageSchema>
