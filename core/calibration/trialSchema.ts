/** A measured making: what went in, what was done, what came out. Frozen when it is written down. */

import { z } from 'zod'
import { ICE_KINDS, METHODS } from '../cold/index.ts'
import { happenedSchema } from '../schema/happened.ts'
import { keysOf, slugSchema, textSchema } from '../schema/primitives.ts'
import { RANGES, wholeWithin, within } from '../schema/ranges.ts'

export type { IceKind } from '../cold/index.ts'

/** Shorter than this nobody works by the clock, s. */
export const LEAST_S = 0.3
const gramsSchema = within(RANGES.trialG)
const temperatureSchema = within(RANGES.trialC)
/** A temperature that a thermometer said, or that stands in for one. */
const readSchema = z.object({ value: temperatureSchema, basis: z.enum(['measured', 'assumed']) }).strict()

export const trialDocumentSchema = z
  .object({
    method: z.enum(keysOf(METHODS)),
    /** What was made; left out: a test liquid. */
    drink: slugSchema.optional(),
    version: z.number().int().min(1).optional(),
    /** Before ice, as weighed. */
    liquid: z
      .object({
        waterG: gramsSchema,
        ethanolG: gramsSchema,
        sugarG: gramsSchema,
        acidG: gramsSchema,
        fatG: gramsSchema,
        otherG: gramsSchema,
      })
      .strict(),
    beforeC: readSchema,
    ice: z
      .array(z.object({ kind: z.enum(keysOf(ICE_KINDS)), massG: within(RANGES.scoopG) }).strict())
      .min(1, 'a trial needs ice; weigh it')
      .max(4),
    iceC: readSchema,
    roomC: readSchema,
    vesselC: readSchema,
    /** Of the gear on the day: what the fit does not ask about. */
    gear: z
      .object({
        vesselJPerK: within(RANGES.vesselJPerK),
        leakWPerK: within(RANGES.leakWPerK),
        uaTimes: within(RANGES.speedTimes),
        powerTimes: within(RANGES.speedTimes),
      })
      .strict(),
    speed: slugSchema.optional(),
    durationS: within({ ...RANGES.durationS, low: LEAST_S }),
    bursts: wholeWithin(RANGES.bursts).default(1),
    restS: within(RANGES.restS).default(0),
    waitS: within(RANGES.iceWaitS).default(0),
    /** Liquid that ran through the strainer, g. */
    afterG: within({ ...RANGES.trialG, low: 1 }),
    /** Of that liquid, at once. */
    afterC: temperatureSchema.optional(),
    /** Ice that stayed in the strainer, with what clings to it, g. */
    iceLeftG: gramsSchema.optional(),
    note: textSchema(500).optional(),
  })
  .strict()
export type TrialDocument = z.infer<typeof trialDocumentSchema>

/** What a person says of a trial later: the trial itself stays as it was. */
export const trialEventSchema = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('excluded'), reason: textSchema(300).min(3, 'say in a few words why') }).strict(),
  z.object({ kind: z.literal('included') }).strict(),
])
export type TrialEvent = z.infer<typeof trialEventSchema>

export const trialSchema = z.object({
  id: z.number().int().min(1),
  well: slugSchema,
  station: slugSchema,
  on: z.iso.date(),
  by: textSchema(80),
  document: trialDocumentSchema,
  /** In order; the last of them says whether it counts. */
  events: z.array(happenedSchema(trialEventSchema)),
})
export type Trial = z.infer<typeof trialSchema>

/** Smallest and largest volume before ice that there are trials of. */
export const volumesMlSchema = z.object({ lowMl: z.number().positive(), highMl: z.number().positive() }).strict()

const estimateSchema = z.object({ value: z.number(), low: z.number(), high: z.number() }).strict()

/** What trials made of a station with one ice. Frozen: a newer one counts instead. */
export const calibrationDocumentSchema = z
  .object({
    outcome: z.enum(['converged', 'atBound', 'maxIterations']),
    uaWPerK: estimateSchema,
    surfaceWaterFraction: estimateSchema,
    stirringPowerW: estimateSchema.optional(),
    /** Power that it was fitted with, where the trials did not tell it, W. */
    assumedPowerW: z.number(),
    uncertaintyFraction: z.number(),
    /** Trials that count in it, by number. */
    trials: z.array(z.number().int()).min(1).max(500),
    /** Day of its last trial. */
    on: z.iso.date(),
    /** The model of the ice that it was fitted with: another one does not use it. */
    model: z.number().int().min(1).max(1000).default(2),
    /** What its trials began with, before ice. */
    volumesMl: volumesMlSchema.optional(),
  })
  .strict()
export type CalibrationDocument = z.infer<typeof calibrationDocumentSchema>

export const calibrationSchema = z.object({
  id: z.number().int(),
  well: slugSchema,
  station: slugSchema,
  ice: z.enum(keysOf(ICE_KINDS)),
  savedBy: z.string(),
  savedAt: z.string(),
  document: calibrationDocumentSchema,
})
export type StoredCalibration = z.infer<typeof calibrationSchema>
