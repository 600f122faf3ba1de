/** What goes over the wire, besides the things themselves. */

import { clockSchema } from '@conch/core/calendar/schema'
import {
  calibrationSchema,
  trialDocumentSchema,
  trialEventSchema,
  trialSchema,
} from '@conch/core/calibration/trialSchema'
import { MEASURE_NAMES } from '@conch/core/drink'
import { consequenceSchema, drinkResultSchema } from '@conch/core/drink/resultSchema'
import { drinkDocumentSchema } from '@conch/core/drink/schema'
import { PLACES, STOCK_STATES } from '@conch/core/house'
import {
  glassSchema,
  iceKindSchema,
  nameSchema,
  settingsSchema,
  slugSchema,
  stationCalibrationSchema,
  textSchema,
  wellSchema,
} from '@conch/core/house/schema'
import { decisionDocumentSchema } from '@conch/core/lineage/decisionSchema'
import {
  findingSchema,
  versionKeySchema,
  versionOriginSchema,
  versionSourceSchema,
} from '@conch/core/lineage/sourceSchema'
import { lotDocumentSchema, lotEventSchema, measuredSchema } from '@conch/core/lots/lotSchema'
import { editionLockSchema, menuPlanSchema } from '@conch/core/menu/schema'
import { keysOf } from '@conch/core/schema/keysOf'
import { flightDocumentSchema, slotSchema } from '@conch/core/schema/palate'
import { RANGES, within } from '@conch/core/schema/ranges'
import { recipeSchema } from '@conch/core/schema/recipe'
import { z } from 'zod'
import { draftOf } from './drafts.ts'

const revisionSchema = z.number().int().min(0).max(2_147_483_647)
const versionNumberSchema = z.number().int().min(1).max(2_147_483_647)
const stampSchema = { savedBy: z.string(), savedAt: z.string() }

/* House */
/** What is small and on every page; the shelf is asked for in parts. */
export const houseSchema = z.object({
  settings: settingsSchema,
  wells: z.array(wellSchema),
  glasses: z.array(glassSchema),
  slots: z.array(slotSchema),
  /** What trials say of stations: the newest calibration of each with one ice. */
  calibrations: z.array(stationCalibrationSchema),
  /** What a fruit gives when it is pressed, by the fruit's name. */
  fruits: z.record(z.string(), z.object({ ml: z.number(), basis: z.enum(['measured', 'assumed']) })),
  /** Of each thing that can be changed, by slug; `settings` for the settings. */
  revisions: z.object({
    settings: revisionSchema,
    wells: z.record(z.string(), revisionSchema),
    glasses: z.record(z.string(), revisionSchema),
    slots: z.record(z.string(), revisionSchema),
  }),
  isDemo: z.boolean(),
})
export const setUpHouseSchema = z.strictObject({
  name: nameSchema,
  ounceMl: within(RANGES.ounceMl),
  standardDrinkG: within(RANGES.standardDrinkG),
  wells: z.array(nameSchema).min(1, 'a house needs a well').max(12),
  clock: clockSchema.optional(),
  /** Who sets it up: its first manager. */
  manager: nameSchema.default('Manager'),
  /** Their passphrase. */
  secret: z.string().min(1, 'say it').max(200),
})
/** A thing of the house as it shall be, and the revision that it was made from; 0 makes it new. */
export const changeSchema = <T extends z.ZodType>(document: T) =>
  z.strictObject({
    document,
    revision: revisionSchema,
    reason: textSchema(300).optional(),
    /** It was written as a draft, of this revision: saving ends that. */
    draftRevision: revisionSchema.optional(),
  })
export const changeSettingsSchema = changeSchema(settingsSchema)
export const changedSchema = z.object({ revision: revisionSchema })
/** What is set of many things of the shelf at once: all of it, or nothing. */
export const changeManySchema = z.strictObject({
  changes: z
    .array(
      z.strictObject({
        slug: slugSchema,
        revision: revisionSchema,
        /** Null: nobody says. */
        stock: z.enum(keysOf(STOCK_STATES)).nullable().optional(),
        storedIn: z.enum(keysOf(PLACES)).optional(),
      }),
    )
    .min(1, 'nothing is picked')
    .max(2000),
})
/** The revision of each, by slug. */
export const changedManySchema = z.object({ revisions: z.record(slugSchema, revisionSchema) })

/* Back bar as a table */
export const bottleTableSchema = z
  .object({
    csv: z.string().min(1, 'the table is empty').max(8_000_000),
    /** Only look; all or nothing; or keep the good rows. */
    mode: z.enum(['check', 'whole', 'good']),
    /** The line of the file that the first row under the names is; for a file that is looked at in parts. */
    firstLine: z.number().int().min(2).max(1_000_000).default(2),
  })
  .strict()
export const bottleTableReportSchema = z.object({
  rows: z.number().int(),
  made: z.number().int(),
  changed: z.number().int(),
  same: z.number().int(),
  saved: z.boolean(),
  unknownColumns: z.array(z.string()),
  problems: z.array(z.object({ line: z.number().int(), column: z.string(), message: z.string() })),
})

/** What is usually poured of something here, ml for one serve, by its slug. */
export const usualAmountsSchema = z.record(
  slugSchema,
  z.object({ lowMl: z.number(), highMl: z.number(), basis: z.enum(['house', 'shipped']) }),
)

/* Lots */
export const makeLotSchema = z
  .object({
    ingredient: slugSchema,
    /** The batch, as a multiple of the recipe as written. */
    factor: z.number().positive().max(10_000).default(1),
    /** What was really weighed in, g; left out: by the recipe. */
    weighed: z
      .array(z.object({ ingredient: slugSchema, actualG: z.number().min(0).max(500_000).nullable() }).strict())
      .max(24)
      .default([]),
    pressed: lotDocumentSchema.shape.pressed,
    madeOn: z.iso.date().optional(),
    /** Left out: by the days that it keeps. */
    useBy: z.iso.date().optional(),
    measured: measuredSchema.optional(),
    note: textSchema(500).optional(),
  })
  .strict()
export const addLotEventSchema = z.object({ event: lotEventSchema }).strict()

/* Recipes, tasting, and sealed batches */
/** What a mix or a blend was made of, from when on. */
export const recipeVersionSchema = z.object({
  number: versionNumberSchema,
  recipe: recipeSchema,
  reason: z.string(),
  ...stampSchema,
})
export const addFlightSchema = z.object({ document: flightDocumentSchema, on: z.iso.date().optional() }).strict()

/* Trials */
const { beforeC, iceC, roomC, vesselC, bursts, restS, waitS } = trialDocumentSchema.shape
/** What stands in a trial as somebody weighed it; the rest it says of itself when it is written down. */
export const addTrialSchema = trialDocumentSchema
  .pick({
    drink: true,
    version: true,
    ice: true,
    speed: true,
    durationS: true,
    afterG: true,
    afterC: true,
    iceLeftG: true,
    note: true,
  })
  .extend({
    well: slugSchema,
    station: slugSchema,
    on: z.iso.date().optional(),
    /** What was made, where it was no drink: a test liquid with these figures. */
    figures: z
      .object({
        abvPct: within(RANGES.abvPct),
        sugarGPer100Ml: within(RANGES.sugarGPer100Ml),
        acidGPer100Ml: within(RANGES.acidGPer100Ml),
      })
      .strict()
      .optional(),
    liquidBeforeG: within({ ...RANGES.trialG, low: 1 }),
    /** Temperatures that nobody took are left out: the trial says what stands for them. */
    beforeC: beforeC.shape.value.optional(),
    iceC: iceC.shape.value.optional(),
    roomC: roomC.shape.value.optional(),
    vesselC: vesselC.shape.value.optional(),
    bursts: bursts.unwrap().optional(),
    restS: restS.unwrap().optional(),
    waitS: waitS.unwrap().optional(),
  })
export const addTrialEventSchema = z.object({ event: trialEventSchema }).strict()
export const trialsSchema = z.object({ trials: z.array(trialSchema), calibrations: z.array(calibrationSchema) })
export const calibrateRequestSchema = z
  .object({
    well: slugSchema,
    station: slugSchema,
    ice: iceKindSchema,
    /** Only trials of this day and later: the machine is another one since. */
    since: z.iso.date().optional(),
  })
  .strict()

/** What a new model of the ice alone changed of the newest edition; without one of before it there is none. */
export const modelMovedSchema = z.object({
  model: z.number().int(),
  edition: z.object({ number: z.number().int(), name: z.string(), model: z.number().int().nullable() }).nullable(),
  /** Whether somebody has said what becomes of the standards. */
  isAnswered: z.boolean(),
  drinks: z.array(
    z.object({
      drink: slugSchema,
      name: z.string(),
      version: versionNumberSchema,
      measures: z.array(
        z.object({
          well: slugSchema,
          measure: z.enum(MEASURE_NAMES),
          was: z.number(),
          now: z.number(),
          standing: z.enum(['inside', 'edge', 'below', 'above', 'open']),
        }),
      ),
      outside: z.string().optional(),
    }),
  ),
})
export const answerModelSchema = z
  .object({
    reason: textSchema(300).min(3, 'say in a few words why'),
    /** Whose standards are taken again, of those that are planned. */
    drinks: z.array(slugSchema).max(500),
    planRevision: revisionSchema,
  })
  .strict()

const handSchema = nameSchema
export const splitPrepRequestSchema = z
  .object({
    ingredient: slugSchema,
    /** The batch, as a multiple of the recipe. */
    factor: z.number().positive().max(10_000).default(1),
    /** Who weighs the first half, and who the second. */
    hands: z.tuple([handSchema, handSchema]),
  })
  .strict()
/** A batch that two people weigh, each with half a sheet. */
export const splitPrepSchema = z.object({
  id: z.number().int(),
  ingredient: slugSchema,
  name: nameSchema,
  factor: z.number(),
  hands: z.array(nameSchema),
  ...stampSchema,
  /** The sheets that the one who asks may see. */
  sheets: z.array(
    z.object({
      hand: nameSchema,
      lines: z.array(z.object({ ingredient: slugSchema, name: nameSchema, massG: z.number() })),
    }),
  ),
})

/* Drinks */
export const versionSchema = z.object({
  drink: slugSchema,
  number: versionNumberSchema,
  parent: versionNumberSchema.nullable(),
  label: z.string(),
  era: z.string(),
  source: z.string(),
  reason: z.string(),
  ...stampSchema,
  document: drinkDocumentSchema,
  /** What it was made from: its own drink's versions, and others'. */
  parents: z.array(versionKeySchema),
  sources: z.array(versionSourceSchema),
  /** What it is, and its years where the words of `era` do not say them; null: nobody said. */
  origin: versionOriginSchema.nullable(),
})
export const draftSchema = draftOf(drinkDocumentSchema)
export const drinkListingSchema = z.object({
  slug: slugSchema,
  name: nameSchema,
  versionCount: z.number().int(),
  latestVersion: versionNumberSchema.nullable(),
  /** The newest that is neither historical nor a trial, else the newest: what a menu takes. */
  ownVersion: versionNumberSchema.nullable(),
  pouredVersion: versionNumberSchema.nullable(),
  plannedVersion: versionNumberSchema.nullable(),
  /** When its newest version was saved. */
  changedAt: z.string().nullable(),
  hasDraft: z.boolean(),
  isHidden: z.boolean(),
})
export const drinkSchema = z.object({
  slug: slugSchema,
  name: nameSchema,
  isHidden: z.boolean(),
  versions: z.array(versionSchema),
  draft: draftSchema.nullable(),
  /** Which version the newest edition pours, and which the next would. */
  poured: z.object({ version: versionNumberSchema, edition: z.number().int() }).nullable(),
  planned: versionNumberSchema.nullable(),
  /** What a riff without a version yet was begun from. */
  riffOf: versionKeySchema.nullable(),
})
/** Where a version comes from, as far as anybody says. */
const comesFromSchema = {
  label: textSchema(80).default(''),
  origin: versionOriginSchema.optional(),
  /** When it was poured, in words. */
  era: textSchema(60).default(''),
  sources: z.array(versionSourceSchema).max(20).default([]),
  /** Versions that it was made from besides the one that its draft began with. */
  parents: z.array(versionKeySchema).max(8, 'a version has eight parents at most').default([]),
  /** What is still to be found out about it. */
  questions: z.array(textSchema(300).min(3)).max(20).default([]),
}
/** A version as it was found, to be kept as it is: no draft, not today's doing. */
export const foundVersionSchema = z.strictObject({
  ...comesFromSchema,
  reason: textSchema(1000).default(''),
})
export const createDrinkSchema = z
  .strictObject({
    name: nameSchema,
    document: drinkDocumentSchema.optional(),
    /** The document becomes its first version at once, instead of a draft. */
    found: foundVersionSchema.optional(),
    /** It is a riff of that version, and begins with what it pours. */
    riffOf: versionKeySchema.optional(),
  })
  .refine((r) => !r.found || r.document, { path: ['document'], message: 'a version that was found needs its spec' })
  .refine((r) => !r.riffOf || !r.found, { path: ['riffOf'], message: 'a riff begins as a draft' })
export const addFoundVersionSchema = foundVersionSchema.extend({
  document: drinkDocumentSchema,
  /** The version of the same drink that it was made from; left out: from none. */
  begunFrom: versionNumberSchema.optional(),
})
export const saveVersionSchema = z.strictObject({
  draftRevision: revisionSchema,
  reason: textSchema(1000).min(3, 'say in a few words why'),
  ...comesFromSchema,
})
export const saidFindingSchema = z.object({
  id: z.number().int(),
  drink: slugSchema,
  number: versionNumberSchema,
  document: findingSchema,
  ...stampSchema,
})
/** That a version is poured from now on: on the next edition, at every well. */
export const decideSchema = z.strictObject({
  version: versionNumberSchema,
  reason: textSchema(1000).min(3, 'say in a few words why'),
  /** The closed tasting that it rests on. */
  tasting: z.number().int().min(1).max(2_147_483_647).optional(),
})
export const decisionSchema = z.object({
  id: z.number().int(),
  drink: slugSchema,
  number: versionNumberSchema,
  document: decisionDocumentSchema,
  ...stampSchema,
})
/** An edition that poured another version of a drink than the one before it; null: it left the menu. */
const pouredInSchema = z.object({
  edition: versionNumberSchema,
  name: nameSchema,
  publishedAt: z.string(),
  version: versionNumberSchema.nullable(),
})
/** A version of another drink, one step away. */
export const relativeSchema = versionSchema.extend({ name: nameSchema, isPoured: z.boolean(), isPlanned: z.boolean() })
/** How a drink came to be: its versions, what they came from and what came from them, and what was found out since. */
export const lineageSchema = z.object({
  drink: slugSchema,
  name: nameSchema,
  versions: z.array(versionSchema),
  relatives: z.array(relativeSchema),
  findings: z.array(saidFindingSchema),
  /** Oldest first. */
  decisions: z.array(decisionSchema),
  editions: z.array(pouredInSchema),
  poured: z.object({ version: versionNumberSchema, edition: z.number().int() }).nullable(),
  planned: versionNumberSchema.nullable(),
  hasDraft: z.boolean(),
})
/** What is still to be found out, in the whole house. */
export const toResearchSchema = z.array(
  z.object({ drink: slugSchema, name: nameSchema, number: versionNumberSchema, finding: saidFindingSchema }),
)

/* Menu and editions */
export const menuSchema = z.object({ plan: menuPlanSchema, revision: revisionSchema, ...stampSchema })
export const changeMenuSchema = z.strictObject({ plan: menuPlanSchema, revision: revisionSchema })
export const editionSummarySchema = z.object({
  number: versionNumberSchema,
  name: nameSchema,
  note: z.string(),
  publishedBy: z.string(),
  publishedAt: z.string(),
  drinkCount: z.number().int(),
})
export const editionSchema = editionSummarySchema.extend({ lock: editionLockSchema })
export const publishEditionSchema = z.strictObject({
  name: nameSchema,
  note: textSchema(2000).default(''),
  planRevision: revisionSchema,
})

/* Preview */
export const previewSchema = z.object({
  /** The well it was computed on, if any. */
  well: z.string().optional(),
  result: drinkResultSchema,
  consequences: z.array(consequenceSchema),
})

/** What anybody may read of what is poured. */
export const publishedMenuSchema = z.object({
  house: z.string(),
  edition: z.object({ number: versionNumberSchema, name: z.string(), publishedAt: z.string() }),
  chapters: z.array(
    z.object({
      name: z.string(),
      drinks: z.array(
        z.object({
          name: z.string(),
          strengthPct: z.number().int().optional(),
          glass: z.string().optional(),
          allergens: z.array(z.string()),
          /** No well can serve it tonight. */
          isOff: z.boolean(),
        }),
      ),
    }),
  ),
})

export const aliveSchema = z.object({ alive: z.literal(true) })
export const readySchema = z.object({
  ready: z.literal(true),
  isSetUp: z.boolean(),
  /** Whether somebody works here already. */
  hasPeople: z.boolean(),
  database: z.enum(['pglite', 'postgresql']),
})

export type House = z.infer<typeof houseSchema>
export type ChangeMany = z.infer<typeof changeManySchema>
export type SetUpHouse = z.infer<typeof setUpHouseSchema>
export type BottleTable = z.infer<typeof bottleTableSchema>
export type BottleTableReport = z.infer<typeof bottleTableReportSchema>
export type MakeLot = z.infer<typeof makeLotSchema>
export type AddLotEvent = z.infer<typeof addLotEventSchema>
export type RecipeVersion = z.infer<typeof recipeVersionSchema>
export type AddTrial = z.infer<typeof addTrialSchema>
export type ModelMoved = z.infer<typeof modelMovedSchema>
export type AnswerModel = z.infer<typeof answerModelSchema>
export type Trials = z.infer<typeof trialsSchema>
export type CalibrateRequest = z.infer<typeof calibrateRequestSchema>
export type AddFlight = z.infer<typeof addFlightSchema>
export type SplitPrepRequest = z.infer<typeof splitPrepRequestSchema>
export type SplitPrep = z.infer<typeof splitPrepSchema>
export type Version = z.infer<typeof versionSchema>
export type CreateDrink = z.infer<typeof createDrinkSchema>
export type SaveVersion = z.infer<typeof saveVersionSchema>
export type FoundVersion = z.infer<typeof foundVersionSchema>
export type Decide = z.infer<typeof decideSchema>
export type Decision = z.infer<typeof decisionSchema>
export type AddFoundVersion = z.infer<typeof addFoundVersionSchema>
export type SaidFinding = z.infer<typeof saidFindingSchema>
export type Lineage = z.infer<typeof lineageSchema>
export type Drink = z.infer<typeof drinkSchema>
export type DrinkListing = z.infer<typeof drinkListingSchema>
export type Menu = z.infer<typeof menuSchema>
export type Edition = z.infer<typeof editionSchema>
export type EditionSummary = z.infer<typeof editionSummarySchema>
export type Preview = z.infer<typeof previewSchema>
export type PublishedMenu = z.infer<typeof publishedMenuSchema>
