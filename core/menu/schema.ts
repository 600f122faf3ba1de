/** A menu as it is planned, and an edition as it is frozen. */

import { z } from 'zod'
import { consequenceSchema, drinkResultSchema } from '../drink/resultSchema.ts'
import { drinkDocumentSchema } from '../drink/schema.ts'
import {
  glassSchema,
  lockedIngredientSchema,
  nameSchema,
  settingsSchema,
  slugSchema,
  stationCalibrationSchema,
  wellSchema,
} from '../house/schema.ts'
import { slotSchema, styleProfileSchema } from '../schema/palate.ts'

/** The next edition in the making: which version of which drink, in which chapter. */
export const menuPlanSchema = z
  .object({
    chapters: z
      .array(
        z.object({
          name: nameSchema,
          entries: z.array(z.object({ drink: slugSchema, version: z.number().int().min(1) })).max(200),
        }),
      )
      .max(20),
  })
  .superRefine((plan, ctx) => {
    const seen = new Set<string>()
    plan.chapters.forEach((chapter, c) => {
      chapter.entries.forEach((entry, e) => {
        if (seen.has(entry.drink)) {
          ctx.addIssue({
            code: 'custom',
            path: ['chapters', c, 'entries', e, 'drink'],
            message: `“${entry.drink}” stands on the menu twice; a drink has one place`,
          })
        }
        seen.add(entry.drink)
      })
    })
  })

export const lockedDrinkSchema = z.object({
  drink: slugSchema,
  name: nameSchema,
  version: z.number().int().min(1),
  versionLabel: z.string(),
  document: drinkDocumentSchema,
  /** By the well's slug: every figure as it was on the day. */
  byWell: z.record(slugSchema, z.object({ result: drinkResultSchema, consequences: z.array(consequenceSchema) })),
})

export const editionLockSchema = z.object({
  format: z.literal('lazy-conch/edition-lock'),
  formatVersion: z.literal(2),
  /** The model of the ice that computed it; null: from before models were numbered. */
  model: z.number().int().nullable(),
  /** Everything the locked drinks refer to, as it was. */
  book: z.object({
    settings: settingsSchema,
    wells: z.array(wellSchema),
    ingredients: z.array(lockedIngredientSchema),
    glasses: z.array(glassSchema),
    slots: z.array(slotSchema).optional(),
    profiles: z.record(slugSchema, styleProfileSchema).optional(),
    calibrations: z.array(stationCalibrationSchema).optional(),
  }),
  chapters: z.array(z.object({ name: nameSchema, drinks: z.array(lockedDrinkSchema) })),
})

export type MenuPlan = z.infer<typeof menuPlanSchema>
export type EditionLock = z.infer<typeof editionLockSchema>
export type LockedDrink = z.infer<typeof lockedDrinkSchema>
