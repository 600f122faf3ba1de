/** The Zod schemas of a house's things: what its drinks refer to. Types are inferred from them. */

import { z } from 'zod'
import { ICE_KINDS, METHODS } from '../cold/index.ts'
import { liquidFromFigures } from '../liquid/index.ts'
import { DEFAULT_KIT } from '../measure/index.ts'
import { profileProblem } from '../vessel/index.ts'
import { ALLERGENS, INGREDIENT_KINDS, type IngredientKind, PLACES, type Place } from './lists.ts'

type Keys<T extends object> = [keyof T & string, ...(keyof T & string)[]]
const keysOf = <T extends object>(o: T) => Object.keys(o) as Keys<T>

export const slugSchema = z
  .string()
  .regex(/^[a-z0-9]+(?:-[a-z0-9]+)*$/, 'use small letters, digits and single hyphens, like "dark-gold-rum"')
  .max(80)

/** Words of a person, trimmed, of so many characters at most. */
export const textSchema = (most: number) => z.string().trim().max(most)

export const nameSchema = z.string().trim().min(1, 'give it a name').max(120)

export const methodSchema = z.enum(keysOf(METHODS))
export const iceKindSchema = z.enum(keysOf(ICE_KINDS))

/** A figure and how we know it. */
export const figureSchema = (low: number, high: number) =>
  z.object({
    value: z.number().min(low).max(high),
    basis: z.enum(['measured', 'label', 'assumed']),
    on: z.iso.date().optional(),
    by: z.string().max(80).optional(),
  })

export const ingredientSchema = z
  .object({
    slug: slugSchema,
    name: nameSchema,
    kind: z.enum(keysOf(INGREDIENT_KINDS) as [IngredientKind, ...IngredientKind[]]),
    figures: z.object({
      abvPct: figureSchema(0, 100),
      sugarGPer100Ml: figureSchema(0, 130),
      acidGPer100Ml: figureSchema(0, 100),
      fatGPer100Ml: figureSchema(0, 92).optional(),
      otherGPer100Ml: figureSchema(0, 100).optional(),
    }),
    storedIn: z.enum(keysOf(PLACES) as [Place, ...Place[]]).default('shelf'),
    allergens: z.array(z.enum(ALLERGENS)).default([]),
    formerNames: z.array(nameSchema).max(20).default([]),
    note: z.string().max(500).optional(),
  })
  .superRefine((ingredient, ctx) => {
    const f = ingredient.figures
    const made = liquidFromFigures(100, {
      abvPct: f.abvPct.value,
      sugarGPer100Ml: f.sugarGPer100Ml.value,
      acidGPer100Ml: f.acidGPer100Ml.value,
      fatGPer100Ml: f.fatGPer100Ml?.value,
      otherGPer100Ml: f.otherGPer100Ml?.value,
    })
    if (!made.ok) ctx.addIssue({ code: 'custom', path: ['figures'], message: made.reason })
  })

export const profileSchema = z
  .array(z.object({ heightMm: z.number().min(0).max(600), radiusMm: z.number().min(0).max(300) }))
  .max(60)
  .superRefine((profile, ctx) => {
    const problem = profileProblem(profile)
    if (problem) ctx.addIssue({ code: 'custom', message: problem })
  })

export const glassSchema = z.object({
  slug: slugSchema,
  name: nameSchema,
  /** Inner wall from the bottom, at height 0, to the brim. */
  profile: profileSchema,
  /** How much glass shares the drink's temperature, J/K. */
  heatCapacityJPerK: z.number().min(0).max(2000).default(100),
  /** Where it waits: decides its temperature. */
  storedIn: z.enum(keysOf(PLACES) as [Place, ...Place[]]).default('shelf'),
  stemMm: z.number().min(0).max(200).default(0),
  /** A drink cannot be seen through its wall. */
  isOpaque: z.boolean().default(false),
})

/** What a stage with ice can be told outright; each value alone replaces the station's. */
export const stageParametersSchema = z
  .object({
    iceG: z.number().min(0).max(2000),
    iceTemperatureC: z.number().min(-40).max(0),
    surfaceWaterFraction: z.number().min(0).max(0.6),
    uaWPerK: z.number().min(0).max(2000),
    stirringPowerW: z.number().min(0).max(2000),
    vesselJPerK: z.number().min(0).max(5000),
    vesselTemperatureC: z.number().min(-40).max(60),
    durationS: z.number().min(0).max(120),
    roomTemperatureC: z.number().min(-20).max(50),
    leakWPerK: z.number().min(0).max(50),
  })
  .partial()
  .strict()

export const stationSchema = z.object({
  slug: slugSchema,
  name: nameSchema,
  method: methodSchema,
  /** What this gear does differently from the method's preset. */
  parameters: stageParametersSchema
    .pick({ uaWPerK: true, stirringPowerW: true, vesselJPerK: true, vesselTemperatureC: true, leakWPerK: true })
    .default({}),
  /** How sure dilution is, as a fraction; 0.15 until trials have been made. */
  dilutionUncertaintyFraction: z.number().min(0.01).max(0.5).default(0.15),
})

const iceFiguresSchema = z
  .object({
    surfaceWaterFraction: z.number().min(0).max(0.6),
    packedSolidFraction: z.number().min(0.2).max(1),
    temperatureC: z.number().min(-40).max(0),
  })
  .partial()

export const wellSchema = z.object({
  slug: slugSchema,
  name: nameSchema,
  roomTemperatureC: z.number().min(-10).max(45).default(21),
  /** From the pour to the guest's hand, s. */
  handOverS: z.number().min(0).max(120).default(20),
  stations: z.array(stationSchema).max(24).default([]),
  /** The ice of this well, where it was measured. */
  ice: z.partialRecord(iceKindSchema, iceFiguresSchema).default({}),
})

export const settingsSchema = z.object({
  name: nameSchema,
  kit: z
    .object({
      ounceMl: z.number().min(25).max(35),
      barSpoonMl: z.number().min(0.5).max(10),
      dashMl: z.number().min(0.1).max(3),
      dropMl: z.number().min(0.01).max(0.3),
      teaspoonMl: z.number().min(3).max(7),
      tablespoonMl: z.number().min(10).max(25),
      cupMl: z.number().min(150).max(300),
    })
    .default(DEFAULT_KIT),
  /** How amounts are shown first. */
  showsOunces: z.boolean().default(true),
  standardDrinkG: z.number().min(6).max(20).default(10),
  /** Standard drinks in one serve above which a word is due. */
  standardDrinksLimit: z.number().min(0.5).max(10).default(3),
  /** Strength above which a bottle is overproof, % ABV. */
  overproofPct: z.number().min(40).max(80).default(57),
  fridgeTemperatureC: z.number().min(-5).max(12).default(4),
  freezerTemperatureC: z.number().min(-40).max(-5).default(-18),
})

export type Figure = z.infer<ReturnType<typeof figureSchema>>
export type Ingredient = z.infer<typeof ingredientSchema>
export type Glass = z.infer<typeof glassSchema>
export type Station = z.infer<typeof stationSchema>
export type Well = z.infer<typeof wellSchema>
export type Settings = z.infer<typeof settingsSchema>
export type StageOverrides = z.infer<typeof stageParametersSchema>
