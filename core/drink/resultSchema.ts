/** The computed numbers of a drink as they are sent and stored: the schema of DrinkResult. */

import { z } from 'zod'
import { METHODS, POURS } from '../cold/index.ts'
import { keysOf } from '../schema/keysOf.ts'
import type { Consequence } from './consequence.ts'
import type { DrinkResult } from './report.ts'
import { MEASURE_NAMES } from './standard.ts'

const number = z.number()

export const stateReportSchema = z.object({
  massG: number,
  volumeMl: number,
  abvPct: number,
  alcoholG: number,
  sugarG: number,
  acidG: number,
  sugarGPer100Ml: number,
  acidGPer100Ml: number,
  temperatureC: number,
  freezingPointC: number.nullable(),
  meltG: number,
  meltTotalG: number,
  surfaceWaterG: number,
  surfaceWaterTotalG: number,
  iceLeftG: number,
  dilutionFraction: number,
})

const stageParametersSchema = z.object({
  iceG: number,
  iceTemperatureC: number,
  surfaceWaterFraction: number,
  uaWPerK: number,
  stirringPowerW: number,
  vesselJPerK: number,
  vesselTemperatureC: number,
  durationS: number,
  roomTemperatureC: number,
  leakWPerK: number,
})
const sourceSchema = z.enum(['spec', 'trials', 'station', 'well', 'preset', 'neutral'])
const sourcesSchema = z.object(
  Object.fromEntries(Object.keys(stageParametersSchema.shape).map((key) => [key, sourceSchema])) as {
    [K in keyof typeof stageParametersSchema.shape]: typeof sourceSchema
  },
)

const sampleSchema = z.object({
  timeS: number,
  temperatureC: number,
  freezingPointC: number.nullable(),
  addedWaterG: number,
  iceG: number,
})
const heatSchema = z.object({
  stirringJ: number,
  roomJ: number,
  beforeJ: number,
  afterJ: number,
  residualJ: number,
})

export const stageReportSchema = z.object({
  name: z.string(),
  station: z.string().optional(),
  method: z.enum(keysOf(METHODS)).optional(),
  parameters: stageParametersSchema,
  sources: sourcesSchema,
  atEnd: stateReportSchema,
  pour: z.enum(keysOf(POURS)),
  afterPour: stateReportSchema,
  pace: z.object({ bursts: number, restS: number, waitS: number }).optional(),
  heldBackG: number.optional(),
  iceLeftBehindG: number.optional(),
  iceGoneAtS: number.optional(),
  samples: z.array(sampleSchema),
  heat: heatSchema,
})

const momentSchema = stateReportSchema.extend({
  afterS: number,
  waterOffG: number.optional(),
  temperatureOffK: number.optional(),
})

const fillSchema = z.object({
  brimMl: number,
  heightMm: number,
  washLineMm: number,
  washLinePct: number,
  overflowMl: number,
  iceBottomMm: number,
  iceTopMm: number,
  iceAboveBrimMl: number,
  isPacked: z.boolean(),
  foamTopMm: number.optional(),
  foamAboveBrimMl: number.optional(),
})

const lookSchema = z.object({ colour: z.string(), cloudiness: number })

const glassReportSchema = z.object({
  name: z.string(),
  atHandOver: momentSchema,
  after5Min: momentSchema,
  after10Min: momentSchema,
  after15Min: momentSchema,
  whole: stateReportSchema,
  strata: z.object({ pouredMl: number, meltMl: number, addedInGlassMl: number, floatMl: number }),
  fill: fillSchema,
  serveIceG: number,
  look: z.object({ atHandOver: lookSchema, after10Min: lookSchema, assumed: z.array(z.string()) }).optional(),
  froth: z
    .object({ atHandOverMl: number, after1MinMl: number, after2MinMl: number, assumed: z.array(z.string()) })
    .optional(),
  samples: z.array(sampleSchema),
  heat: heatSchema,
})

export const predictionsSchema = z.partialRecord(
  z.enum(MEASURE_NAMES),
  z.object({ value: number, low: number, high: number }),
)

export const drinkResultSchema = z.object({
  model: number.optional(),
  well: z.string().optional(),
  beforeIce: stateReportSchema,
  stages: z.array(stageReportSchema),
  glass: glassReportSchema.optional(),
  serve: z.object({
    serves: number,
    volumeMl: number,
    alcoholG: number,
    sugarG: number,
    acidG: number,
    sugarToAcid: number.optional(),
  }),
  pours: z.array(
    z.object({
      name: z.string(),
      volumeMl: number,
      alcoholFraction: number,
      sugarFraction: number,
      acidFraction: number,
      assumed: z.array(z.string()),
      unknown: z.array(z.string()).optional(),
    }),
  ),
  predictions: predictionsSchema,
  dilutionUncertaintyFraction: number,
}) satisfies z.ZodType<DrinkResult, unknown>

export const consequenceSchema = z.object({
  weight: z.enum(['stop', 'mind', 'note']),
  code: z.string() as z.ZodType<Consequence['code']>,
  text: z.string(),
  isSafety: z.boolean(),
})
