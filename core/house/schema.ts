/** The Zod schemas of a house's things: what its drinks refer to. Types are inferred from them. */

import { z } from 'zod'
import { clockSchema } from '../calendar/schema.ts'
import { ICE_KINDS, METHODS } from '../cold/index.ts'
import { densityGPerMlOf, liquidFromFigures } from '../liquid/index.ts'
import { DEFAULT_KIT, KIT_KEYS } from '../measure/index.ts'
import { blendProblems } from '../schema/blendRules.ts'
import { ALLERGENS, BUILD_ORDERS, INGREDIENT_KINDS, isWeighed, PLACES, STOCK_STATES } from '../schema/lists.ts'
import { measuresHoldSchema } from '../schema/measuresHold.ts'
import { figureSchema, keysOf, nameSchema, slugSchema, textSchema } from '../schema/primitives.ts'
import { RANGES, wholeWithin, within } from '../schema/ranges.ts'
import { recipeSchema } from '../schema/recipe.ts'
import { profileProblem } from '../vessel/index.ts'

export { figureSchema, nameSchema, slugSchema, textSchema }

export const methodSchema = z.enum(keysOf(METHODS))
export const iceKindSchema = z.enum(keysOf(ICE_KINDS))

const figuresUpTo = (mostSugarG: number, mostG: number) =>
  z.object({
    abvPct: figureSchema(0, 100),
    sugarGPer100Ml: figureSchema(0, mostSugarG),
    acidGPer100Ml: figureSchema(0, mostG),
    fatGPer100Ml: figureSchema(0, mostG).optional(),
    otherGPer100Ml: figureSchema(0, mostG).optional(),
  })

/** What 100 ml of a liquid can hold, g. A dry mix, computed as if it were one, comes to more. */
const MOST_IN_A_LIQUID = { sugarG: 130, otherG: 100 } as const
const MOST_COMPUTED_G = 200
const figuresSchema = figuresUpTo(MOST_IN_A_LIQUID.sugarG, MOST_IN_A_LIQUID.otherG)

/** What remains usable of a sealed mix besides its figures: enough to pour and to warn. */
const closedSchema = z
  .object({
    /** What the recipe as written makes, two figures, ml. */
    volumeMl: z.number(),
    mustStir: z.boolean(),
    isAcidAdjusted: z.boolean(),
    keepsDays: z.number().int().nullable(),
    /** Somebody changed an allergen on the shelf since a manager looked at this one. */
    isAllergenUnsure: z.boolean(),
  })
  .strict()
export type ClosedMix = z.infer<typeof closedSchema>

/**
 * What others may know of a sealed mix, as it was when a manager saved it last. It follows nothing by itself: whoever
 * may change a bottle could otherwise see by it what the bottle is in.
 */
const sealedAsSchema = z
  .object({
    /** In whole per cent and whole grams. */
    figures: z
      .object({
        abvPct: z.number(),
        sugarGPer100Ml: z.number(),
        acidGPer100Ml: z.number(),
        fatGPer100Ml: z.number(),
        otherGPer100Ml: z.number(),
      })
      .strict(),
    allergens: z.array(z.enum(ALLERGENS)),
    volumeMl: z.number(),
    mustStir: z.boolean(),
    isAcidAdjusted: z.boolean(),
    keepsDays: z.number().int().nullable(),
    /** Each letter's share of the mass, to one per cent of itself. */
    shares: z.record(z.string(), z.number()),
    /** What on the shelf had which allergens then, and how far the shelf went. */
    shelf: z.object({ upTo: z.number(), allergens: z.record(slugSchema, z.array(z.enum(ALLERGENS))) }).strict(),
  })
  .strict()
export type SealedAs = z.infer<typeof sealedAsSchema>

/** How far a density may be from what strength, sugar and acid make of it. */
const DENSITY_TOLERANCE = 0.03

const ingredientObject = z.object({
  slug: slugSchema,
  name: nameSchema,
  kind: z.enum(keysOf(INGREDIENT_KINDS)),
  /** In 100 ml; of what is weighed (produce, dry goods, garnish) in 100 g. */
  figures: figuresSchema,
  storedIn: z.enum(keysOf(PLACES)).default('shelf'),
  allergens: z.array(z.enum(ALLERGENS)).default([]),
  /** An allergen of a part that this mix is said to be without, and who says why. */
  withoutAllergens: z
    .array(
      z
        .object({
          allergen: z.enum(ALLERGENS),
          reason: textSchema(300).min(3, 'say in a few words why'),
          by: textSchema(80),
          on: z.iso.date(),
        })
        .strict(),
    )
    .max(ALLERGENS.length)
    .optional(),
  formerNames: z.array(nameSchema).max(20).default([]),
  note: z.string().max(500).optional(),
  /** Density at 20 °C, as weighed, g/ml. */
  densityGPerMl: figureSchema(RANGES.densityGPerMl.low, RANGES.densityGPerMl.high).optional(),
  /** Of the dry good as it lies in a cup, for recipes by volume, g/ml. */
  bulkGPerMl: z.number().min(0.1).max(2).optional(),
  /** What one buys: ml, or g of what is weighed, and its price in the house's currency. */
  size: z.number().positive().max(100_000).optional(),
  price: within(RANGES.price).optional(),
  stock: z.enum(keysOf(STOCK_STATES)).optional(),
  style: textSchema(80).optional(),
  colour: textSchema(40).optional(),
  /** As seen through a small glass of it; left out: as things like it look. */
  look: z
    .object({
      colour: z.string().regex(/^#[0-9a-f]{6}$/, 'a colour is written as #rrggbb'),
      cloudiness: z.number().min(0).max(1),
    })
    .strict()
    .optional(),
  /** What it was fermented from, and where it comes from. */
  base: textSchema(80).optional(),
  origin: textSchema(80).optional(),
  /** Only for garnish and produce: it may look right and not be food. */
  isFoodGrade: z.boolean().optional(),
  /** Froth that a ml of it raises when it is blended, ml. */
  frothMlPerMl: within(RANGES.frothMlPerMl).optional(),
  /** How that is known; left out: assumed. */
  frothBasis: z.enum(['measured', 'assumed']).optional(),
  /** Days after opening, pressing or cutting. */
  keepsDays: wholeWithin(RANGES.bottleKeepsDays).optional(),
  /** Juice from one fruit, ml, until pressings say better. */
  fruit: z
    .object({ name: nameSchema, mlPerFruit: z.number().positive().max(5000) })
    .strict()
    .optional(),
  /** Of a house mix or a blend: what it is made of. Its figures follow from it. */
  recipe: recipeSchema.optional(),
  /** Of a blend: the slot whose target it is held against. */
  aimsAt: slugSchema.optional(),
  /** Only managers may see what it is made of. */
  isSealed: z.boolean().optional(),
  /** In place of the recipe, for whoever may not see it. Never stored. */
  closed: closedSchema.optional(),
  /** Of what is sealed, for the house itself: what others are told. */
  sealedAs: sealedAsSchema.optional(),
})

/** As an edition keeps it: a mix with the figures that were computed, dry ones too. */
export const lockedIngredientSchema = ingredientObject.extend({
  figures: figuresUpTo(MOST_COMPUTED_G, MOST_COMPUTED_G),
})

export const ingredientSchema = ingredientObject.superRefine((ingredient, ctx) => {
  const f = ingredient.figures
  const figures = {
    abvPct: f.abvPct.value,
    sugarGPer100Ml: f.sugarGPer100Ml.value,
    acidGPer100Ml: f.acidGPer100Ml.value,
    fatGPer100Ml: f.fatGPer100Ml?.value ?? 0,
    otherGPer100Ml: f.otherGPer100Ml?.value ?? 0,
  }
  const say = (path: string, message: string) => ctx.addIssue({ code: 'custom', path: [path], message })
  if (ingredient.kind === 'blend')
    for (const p of blendProblems(ingredient.recipe)) ctx.addIssue({ code: 'custom', ...p })
  if (ingredient.isSealed && !ingredient.recipe && !ingredient.closed)
    say('isSealed', 'only what is made by a recipe can be sealed')
  // The figures of a mix are computed from its recipe; these stand only until then.
  if (ingredient.recipe || ingredient.kind === 'blend') return
  if (isWeighed(ingredient.kind)) {
    const solidsG = figures.sugarGPer100Ml + figures.acidGPer100Ml + figures.fatGPer100Ml + figures.otherGPer100Ml
    if (figures.abvPct > 0) say('figures', 'what is weighed has no strength; leave it at 0')
    if (solidsG > 100 + 1e-9) say('figures', `sugar, acid, fat and the rest are ${solidsG} g in 100 g; at most 100 g`)
    return
  }
  const made = liquidFromFigures(100, figures)
  if (!made.ok) {
    say('figures', made.reason)
    return
  }
  const density = ingredient.densityGPerMl?.value
  const computed = densityGPerMlOf(made.liquid)
  if (density !== undefined && Math.abs(density / computed - 1) > DENSITY_TOLERANCE)
    say(
      'densityGPerMl',
      `${density} g/ml does not go with strength and sugar, which make ${computed.toFixed(3)} g/ml; at most 3 % apart`,
    )
})

export const profileSchema = z
  .array(z.object({ heightMm: within(RANGES.wallHeightMm), radiusMm: z.number().min(0).max(300) }))
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
  heatCapacityJPerK: within(RANGES.glassJPerK).default(100),
  /** Where it waits: decides its temperature. */
  storedIn: z.enum(keysOf(PLACES)).default('shelf'),
  stemMm: within(RANGES.stemMm).default(0),
  /** A drink cannot be seen through its wall. */
  isOpaque: z.boolean().default(false),
})

/** What a stage with ice can be told outright; each value alone replaces the station's. */
export const stageParametersSchema = z
  .object({
    iceG: within(RANGES.iceG),
    iceTemperatureC: within(RANGES.iceTemperatureC),
    surfaceWaterFraction: within(RANGES.surfaceWaterFraction),
    uaWPerK: within(RANGES.uaWPerK),
    stirringPowerW: within(RANGES.powerW),
    vesselJPerK: within(RANGES.vesselJPerK),
    vesselTemperatureC: within(RANGES.vesselC),
    durationS: within(RANGES.durationS),
    roomTemperatureC: z.number().min(-20).max(50),
    leakWPerK: within(RANGES.leakWPerK),
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
  /**
   * The model of the ice for which a person stands by the conductance and power above: under another one they do not
   * count until somebody says so again.
   */
  confirmedModel: z.number().int().min(1).max(1000).optional(),
  /** Speeds of a machine, each beside the one that the figures are of. */
  speeds: z
    .array(
      z
        .object({
          slug: slugSchema,
          name: nameSchema,
          uaTimes: within(RANGES.speedTimes).default(1),
          powerTimes: within(RANGES.speedTimes).default(1),
        })
        .strict(),
    )
    .max(8)
    .optional(),
  /** Liquid and ice together with which it still works, ml; left out: as such gear is. */
  holdsMl: within(RANGES.holdsMl).optional(),
  /** How sure dilution is, as a fraction, where a person says so; left out: the method's, until trials say better. */
  dilutionUncertaintyFraction: z.number().min(0.01).max(0.5).optional(),
})

const iceFiguresSchema = z
  .object({
    surfaceWaterFraction: within(RANGES.surfaceWaterFraction),
    packedSolidFraction: within(RANGES.packedSolidFraction),
    temperatureC: within(RANGES.iceTemperatureC),
  })
  .partial()

export const wellSchema = z.object({
  slug: slugSchema,
  name: nameSchema,
  roomTemperatureC: within(RANGES.wellRoomC).default(21),
  /** From the pour to the guest's hand, s. */
  handOverS: within(RANGES.handOverS).default(20),
  stations: z.array(stationSchema).max(24).default([]),
  /** The ice of this well, where it was measured. */
  ice: z.partialRecord(iceKindSchema, iceFiguresSchema).default({}),
  /** What a scoop of this well holds, struck off level. */
  scoops: z
    .array(z.object({ name: nameSchema, kind: iceKindSchema, massG: within(RANGES.scoopG) }).strict())
    .max(12)
    .optional(),
})

const estimateSchema = z.object({ value: z.number(), low: z.number(), high: z.number() })
/** What trials of a station with one ice made of its figures, as a drink's model takes it. */
export const stationCalibrationSchema = z.object({
  well: slugSchema,
  station: slugSchema,
  ice: iceKindSchema,
  uaWPerK: estimateSchema,
  surfaceWaterFraction: estimateSchema,
  stirringPowerW: estimateSchema.optional(),
  uncertaintyFraction: z.number(),
  /** Trials that count in it. */
  trials: z.number().int(),
  /** Day of its last trial. */
  on: z.iso.date(),
  /** Volumes before ice that its trials began with, ml. */
  volumesMl: z.object({ lowMl: z.number(), highMl: z.number() }).optional(),
  /** Newer trials that disagree with it: how many, and by how much of the water, as a fraction. */
  drift: z.object({ trials: z.number().int(), byFraction: z.number() }).optional(),
})

const weightSchema = within(RANGES.standInWeight)
/** How much one step on each counts, beside one step on a line of style. */
const standInWeightsSchema = z
  .object({
    strength: weightSchema,
    sugar: weightSchema,
    acid: weightSchema,
    colour: weightSchema,
    price: weightSchema,
  })
  .strict()

export const settingsSchema = z.object({
  name: nameSchema,
  kit: z
    .object({
      ...measuresHoldSchema.shape,
      /** Who measured which of these, when. */
      measured: z.partialRecord(z.enum(KIT_KEYS), z.object({ on: z.iso.date(), by: z.string().max(80) })).optional(),
    })
    .default(DEFAULT_KIT),
  /** Where its clock hangs and when its day turns; left out: Greenwich, 06:00. */
  clock: clockSchema.optional(),
  /** How amounts are shown first. */
  showsOunces: z.boolean().default(true),
  standardDrinkG: within(RANGES.standardDrinkG).default(10),
  /** Standard drinks in one serve above which a word is due. */
  standardDrinksLimit: within(RANGES.standardDrinksLimit).default(3),
  /** Strength above which a bottle is overproof, % ABV. */
  overproofPct: within(RANGES.overproofPct).default(57),
  /** Hours after pressing in which the house pours a juice; left out: 8. */
  juiceHours: within(RANGES.juiceHours).optional(),
  fridgeTemperatureC: within(RANGES.fridgeC).default(4),
  freezerTemperatureC: within(RANGES.freezerC).default(-18),
  /** Three letters; prices are in it. */
  currency: z
    .string()
    .regex(/^[A-Z]{3}$/, 'three capital letters, like EUR')
    .optional(),
  /** How the house weighs a stand-in, and what it never pours as one. */
  standIn: z
    .object({
      weights: standInWeightsSchema,
      sweetWeights: standInWeightsSchema,
      limitSteps: within(RANGES.standInSteps),
      without: z.array(slugSchema).max(200),
    })
    .partial()
    .strict()
    .optional(),
  /** How far a target moves at once, where several say the same of a drink or somebody wants a touch of it; left out: as shipped. */
  noteSteps: z
    .object({
      sweetGPer100Ml: within(RANGES.noteSweet),
      sourGPer100Ml: within(RANGES.noteSour),
      strengthPct: within(RANGES.noteStrength),
    })
    .strict()
    .optional(),
  /** What is poured first; left out: the cheapest. */
  buildOrder: z.enum(keysOf(BUILD_ORDERS)).optional(),
  /** Days that a back-up is kept; left out: a fortnight. */
  keepBackupsDays: wholeWithin(RANGES.keepBackupsDays).optional(),
  /** The screen of a device locks after so long without a touch; 0: never. */
  idleLockMinutes: wholeWithin(RANGES.idleLockMinutes).optional(),
  /** The jiggers and spoons that the house owns: each its name and what its sides and lines hold, ml. */
  measures: z
    .array(z.object({ name: nameSchema, volumesMl: z.array(z.number().positive().max(1000)).min(1).max(8) }).strict())
    .max(40)
    .optional(),
})

export type { Figure } from '../schema/primitives.ts'
export type Ingredient = z.infer<typeof ingredientSchema>
export type Glass = z.infer<typeof glassSchema>
export type Station = z.infer<typeof stationSchema>
export type Well = z.infer<typeof wellSchema>
export type Settings = z.infer<typeof settingsSchema>
export type StationCalibration = z.infer<typeof stationCalibrationSchema>
export type StageOverrides = z.infer<typeof stageParametersSchema>
