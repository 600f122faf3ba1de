/** A whole house as one file: what export writes and import reads. The demo comes in this way too. */

import { calibrationDocumentSchema, trialSchema } from '@conch/core/calibration/trialSchema'
import { drinkDocumentSchema } from '@conch/core/drink/schema'
import { splitPrepDocumentSchema } from '@conch/core/formula/splitSchema'
import {
  glassSchema,
  iceKindSchema,
  ingredientSchema,
  nameSchema,
  settingsSchema,
  slugSchema,
  textSchema,
  wellSchema,
} from '@conch/core/house/schema'
import { decisionDocumentSchema } from '@conch/core/lineage/decisionSchema'
import { versionKeySchema, versionOriginSchema, versionSourceSchema } from '@conch/core/lineage/sourceSchema'
import { lotDocumentSchema, lotEventSchema } from '@conch/core/lots/lotSchema'
import { editionLockSchema, menuPlanSchema } from '@conch/core/menu/schema'
import { keysOf } from '@conch/core/schema/keysOf'
import { flightDocumentSchema, slotSchema } from '@conch/core/schema/palate'
import { recipeSchema } from '@conch/core/schema/recipe'
import { NOTE_WORDS, tastingSheetSchema } from '@conch/core/tasting/tastingSchema'
import { z } from 'zod'
import { roleSchema } from './people.ts'

const NOTES = keysOf(NOTE_WORDS)
const roleNameSchema = textSchema(80).default('Manager')

/** What was said of a version after it was saved: a question with its answer, a source, or what it comes from. */
const houseFileFindingSchema = z.intersection(
  z.object({ on: z.iso.date(), by: roleNameSchema }),
  z.union([
    z.object({ asks: textSchema(300), answer: textSchema(1000).optional() }),
    z.object({ source: versionSourceSchema }),
    z.object({ from: versionKeySchema }),
  ]),
)

/** A blind tasting that was closed. */
export const houseFileTastingSchema = z.object({
  madeAt: z.iso.datetime(),
  closedAt: z.iso.datetime(),
  maker: roleNameSchema,
  question: textSchema(300),
  subjects: z.array(versionKeySchema).min(2).max(5),
  tasters: z.array(nameSchema).min(2).max(16),
  /** Of the subjects, in their order. */
  codes: z.array(textSchema(8)).min(2).max(5),
  sheets: z.array(tastingSheetSchema).max(80),
})

export const houseFileVersionSchema = z.object({
  number: z.number().int().min(1).max(10_000),
  parent: z.number().int().min(1).nullable().default(null),
  label: textSchema(80).default(''),
  /** When it was poured, as far as anybody knows: "1962", "opening year". */
  era: textSchema(60).default(''),
  source: textSchema(300).default(''),
  origin: versionOriginSchema.optional(),
  sources: z.array(versionSourceSchema).max(20).default([]),
  /** What it was made from besides its parent, of other drinks, too. */
  parents: z.array(versionKeySchema).max(8).default([]),
  /** What was asked, found out and added later. */
  findings: z.array(houseFileFindingSchema).max(50).default([]),
  /** What was said of it on its nights. */
  notes: z
    .array(
      z.object({
        on: z.iso.date(),
        by: roleNameSchema,
        says: z.enum(NOTES),
        words: textSchema(300).default(''),
        well: slugSchema,
      }),
    )
    .max(500)
    .default([]),
  reason: textSchema(1000).default(''),
  savedBy: roleNameSchema,
  savedAt: z.iso.datetime(),
  document: drinkDocumentSchema,
})

export const houseFileDrinkSchema = z.object({
  slug: slugSchema,
  name: nameSchema,
  versions: z.array(houseFileVersionSchema).max(500),
  /** What was decided about it, oldest first; left out: the figures of the day, which nobody wrote down. */
  decisions: z
    .array(
      z.object({
        at: z.iso.datetime(),
        by: roleNameSchema,
        version: z.number().int().min(1),
        document: decisionDocumentSchema.partial({ byWell: true, changed: true }),
      }),
    )
    .max(500)
    .default([]),
})

export const houseFileEditionSchema = z.object({
  name: nameSchema,
  note: textSchema(2000).default(''),
  publishedBy: roleNameSchema,
  publishedAt: z.iso.datetime(),
  plan: menuPlanSchema,
  /** Bottles as they were then, where they differ from today's. Only for an edition without a lock. */
  ingredientsThen: z.array(ingredientSchema).default([]),
  /** The frozen figures; left out, they are computed on import. */
  lock: editionLockSchema.optional(),
})

export const houseFileLotSchema = z.object({
  ingredient: slugSchema,
  madeOn: z.iso.date(),
  madeBy: roleNameSchema,
  /** Left out: by the days that it keeps. */
  useBy: z.iso.date().nullable().optional(),
  /** As it was written down; left out, it is computed on import from what follows. */
  document: lotDocumentSchema.optional(),
  /** The batch, as a multiple of the recipe. */
  factor: z.number().positive().max(10_000).default(1),
  pressed: lotDocumentSchema.shape.pressed,
  events: z
    .array(z.object({ at: z.iso.datetime(), by: roleNameSchema, event: lotEventSchema }))
    .max(100)
    .default([]),
})

/** What a mix or a blend was made of before. */
export const houseFileRecipeSchema = z.object({
  ingredient: slugSchema,
  number: z.number().int().min(1).max(100_000),
  recipe: recipeSchema,
  reason: textSchema(300).default(''),
  savedBy: roleNameSchema,
  savedAt: z.iso.datetime(),
})

export const houseFileFlightSchema = z.object({
  on: z.iso.date(),
  by: roleNameSchema,
  document: flightDocumentSchema,
})

export const houseFileSplitPrepSchema = z.object({
  ingredient: slugSchema,
  savedBy: roleNameSchema,
  savedAt: z.iso.datetime(),
  document: splitPrepDocumentSchema,
})

export const houseFileTrialSchema = trialSchema.omit({ id: true }).extend({
  /** By which calibrations of this file know it. */
  number: z.number().int().min(1).max(1_000_000),
})

export const houseFileCalibrationSchema = z.object({
  well: slugSchema,
  station: slugSchema,
  ice: iceKindSchema,
  savedBy: roleNameSchema,
  savedAt: z.iso.datetime(),
  /** Numbers of the trials in this file that count in it. */
  trials: z.array(z.number().int().min(1)).min(2).max(500),
  /** As it was fitted; left out, it is fitted on import. */
  document: calibrationDocumentSchema.optional(),
})

export const houseFileSchema = z.object({
  format: z.literal('lazy-conch/house'),
  formatVersion: z.literal(1),
  settings: settingsSchema,
  /** Who works here; whoever else history names comes in, too. */
  people: z
    .array(z.object({ name: nameSchema, role: roleSchema }).strict())
    .max(500)
    .default([]),
  wells: z.array(wellSchema).max(50),
  glasses: z.array(glassSchema).max(500),
  ingredients: z.array(ingredientSchema).max(10_000),
  /** Oldest first. */
  lots: z.array(houseFileLotSchema).max(20_000).default([]),
  slots: z.array(slotSchema).max(500).default([]),
  /** Oldest first. */
  flights: z.array(houseFileFlightSchema).max(20_000).default([]),
  /** Every recipe that a mix had, today's too; left out: only today's is known. */
  recipes: z.array(houseFileRecipeSchema).max(50_000).default([]),
  splitPreps: z.array(houseFileSplitPrepSchema).max(20_000).default([]),
  /** Oldest first. */
  trials: z.array(houseFileTrialSchema).max(20_000).default([]),
  calibrations: z.array(houseFileCalibrationSchema).max(20_000).default([]),
  drinks: z.array(houseFileDrinkSchema).max(5000),
  /** Oldest first; decisions name them by their place, from 1. */
  tastings: z.array(houseFileTastingSchema).max(5000).default([]),
  editions: z.array(houseFileEditionSchema).max(500),
  plan: menuPlanSchema.optional(),
})

export type HouseFile = z.infer<typeof houseFileSchema>
export type HouseFileInput = z.input<typeof houseFileSchema>
