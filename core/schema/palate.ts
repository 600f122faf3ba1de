/** Tasting flights, and slots: what a drink's base must be. */

import { z } from 'zod'
import { MOST_IN_A_FLIGHT, MOST_ON_AXIS, STYLE_AXIS_NAMES } from './axes.ts'
import { nameSchema, slugSchema, textSchema } from './primitives.ts'
import type { StyleProfile } from './profile.ts'
import { RANGES, within } from './ranges.ts'

/** A place on some of the lines, 0 to 10 each. */
export const styleSchema = z.partialRecord(z.enum(STYLE_AXIS_NAMES), z.number().min(0).max(MOST_ON_AXIS))
export type Style = z.infer<typeof styleSchema>

/** Where all tasters together place something; StyleProfile as it is stored. */
export const styleProfileSchema: z.ZodType<StyleProfile, StyleProfile> = z.partialRecord(
  z.enum(STYLE_AXIS_NAMES),
  z.object({ value: z.number(), low: z.number(), high: z.number(), tasters: z.number().int() }),
)

/** What one taster said of some bottles, side by side. */
export const flightDocumentSchema = z
  .object({
    scores: z
      .array(z.object({ ingredient: slugSchema, style: styleSchema }).strict())
      .min(2, 'a flight compares: at least two bottles')
      .max(MOST_IN_A_FLIGHT),
    note: textSchema(500).optional(),
  })
  .strict()
  .superRefine(({ scores }, ctx) => {
    if (scores.every((s) => Object.keys(s.style).length === 0))
      ctx.addIssue({ code: 'custom', path: ['scores'], message: 'no bottle is placed on any line yet' })
    scores.forEach(({ ingredient }, i) => {
      if (scores.findIndex((s) => s.ingredient === ingredient) < i)
        ctx.addIssue({
          code: 'custom',
          path: ['scores', i, 'ingredient'],
          message: `“${ingredient}” is there twice; a flight has each bottle once`,
        })
    })
  })
export type FlightDocument = z.infer<typeof flightDocumentSchema>

export const flightSchema = z.object({
  id: z.number().int().min(1),
  on: z.iso.date(),
  by: textSchema(80),
  document: flightDocumentSchema,
})
export type Flight = z.infer<typeof flightSchema>

const bandSchema = z.object({ low: within(RANGES.abvPct), high: within(RANGES.abvPct) }).strict()

export const slotSchema = z
  .object({
    slug: slugSchema,
    name: nameSchema,
    /** What a bottle in this slot shall taste like. */
    target: styleSchema,
    /** Strength that it may have, % ABV. */
    abvPct: bandSchema,
    /** Ranked: the first that is there is poured, unless the house or the well picks another. */
    candidates: z
      .array(z.object({ ingredient: slugSchema, note: textSchema(200).optional() }).strict())
      .min(1, 'a slot needs a candidate')
      .max(20),
    /** The house pick: one of the candidates. */
    pick: slugSchema,
    /** Where a well picks another, by the well's slug. */
    pickByWell: z.record(slugSchema, slugSchema).optional(),
    /** Bottles that look right and are not, and who says why. */
    refused: z
      .array(
        z
          .object({
            ingredient: slugSchema,
            reason: textSchema(300).min(3, 'say in a few words why'),
            by: textSchema(80),
            on: z.iso.date(),
          })
          .strict(),
      )
      .max(40)
      .default([]),
    note: textSchema(500).optional(),
  })
  .strict()
  .superRefine((slot, ctx) => {
    const say = (path: (string | number)[], message: string) => ctx.addIssue({ code: 'custom', path, message })
    const { low, high } = slot.abvPct
    if (low > high) say(['abvPct'], `${low} to ${high} % is no band; the low end must not be above the high end`)
    if (Object.keys(slot.target).length === 0) say(['target'], 'place it on at least one line')
    const candidates = slot.candidates.map((c) => c.ingredient)
    candidates.forEach((c, i) => {
      if (candidates.indexOf(c) < i) say(['candidates', i, 'ingredient'], `“${c}” is there twice`)
    })
    if (candidates.length > 0 && !candidates.includes(slot.pick))
      say(['pick'], `“${slot.pick}” is not among the candidates`)
    for (const [well, pick] of Object.entries(slot.pickByWell ?? {})) {
      if (!candidates.includes(pick)) say(['pickByWell', well], `“${pick}” is not among the candidates`)
    }
    slot.refused.forEach(({ ingredient }, i) => {
      if (candidates.includes(ingredient))
        say(['refused', i, 'ingredient'], `“${ingredient}” is a candidate and refused; it is one of the two`)
    })
  })
export type Slot = z.infer<typeof slotSchema>
