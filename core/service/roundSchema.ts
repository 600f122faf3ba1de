/** A round as it is kept: on the tablet while it is made, in the house when it is parked or finished. */

import { z } from 'zod'
import { drinkDocumentSchema } from '../drink/schema.ts'
import { nameSchema, slugSchema, textSchema } from '../schema/primitives.ts'
import { MOST_GLASSES, MOST_GOES, MOST_IN_ONE } from './limits.ts'

/** Of a step: what is done with which load, `pour:a:2`. */
export const stepIdSchema = z
  .string()
  .max(40)
  .regex(/^[a-zA-Z]+(?::[a-z0-9]+){1,2}$/, 'a step is named like pour:a:2')

export const roundLoadSchema = z
  .object({
    /** Of this round: a, b, c … */
    id: z.string().regex(/^[a-z]$/, 'one small letter'),
    drink: slugSchema,
    /** The version that is poured. */
    version: z.number().int().min(1).max(100_000),
    /** As it is made here: the version, what was chosen for tonight, or what a guest wished for. */
    document: drinkDocumentSchema,
    glasses: z.number().int().min(1).max(MOST_IN_ONE),
    /** In how many goes one glass (a bowl) was begun: another well goes on like this, whatever its mixer holds. */
    goes: z.number().int().min(1).max(MOST_GOES).optional(),
    /** Why it is not as it is written: “less sweet”, “something instead tonight”. */
    otherwise: textSchema(120).optional(),
  })
  .strict()

/** A clock of a chill: when it was started, and how long it ran when it was stopped, s. */
export const roundClockSchema = z
  .object({ startedAt: z.iso.datetime(), ranS: z.number().min(0).max(86_400).optional() })
  .strict()

export const roundSchema = z
  .object({
    /** Made by the tablet: the same round sent twice is one. */
    key: z.string().regex(/^[0-9a-f]{32}$/, '32 digits and letters from a to f'),
    well: slugSchema,
    startedAt: z.iso.datetime(),
    /** For whom: a table, a name. */
    words: textSchema(80).optional(),
    /** In the order in which they are made. */
    loads: z.array(roundLoadSchema).min(1, 'a round has a drink').max(MOST_GLASSES),
    /** Steps that are done. */
    ticks: z.array(stepIdSchema).max(400),
    /** What was poured where it was not what was asked for, ml, by step. */
    poured: z.record(stepIdSchema, z.number().min(0).max(3000)),
    /** By load, or by go of a load: a, a2. */
    clocks: z.record(z.string().regex(/^[a-z][2-9]?$/), roundClockSchema),
  })
  .strict()
  .superRefine((round, ctx) => {
    const ids = round.loads.map((l) => l.id)
    if (new Set(ids).size !== ids.length)
      ctx.addIssue({ code: 'custom', path: ['loads'], message: 'two loads have the same letter' })
    const glasses = round.loads.reduce((sum, l) => sum + l.glasses, 0)
    if (glasses > MOST_GLASSES)
      ctx.addIssue({
        code: 'custom',
        path: ['loads'],
        message: `${glasses} glasses; a round has at most ${MOST_GLASSES}`,
      })
    for (const id of Object.keys(round.clocks))
      if (!ids.includes(id.charAt(0)))
        ctx.addIssue({ code: 'custom', path: ['clocks', id], message: 'is the clock of a load that is not there' })
  })

export type Round = z.infer<typeof roundSchema>
export type RoundLoad = z.infer<typeof roundLoadSchema>

/** How a round came to the house: finished, or put aside half made. */
export const ROUND_STATES = { made: 'made', parked: 'parked' } as const
export type RoundState = keyof typeof ROUND_STATES

export const roundDocumentSchema = z
  .object({
    state: z.enum(['made', 'parked']),
    round: roundSchema,
    /** Steps that were never ticked, as they are called. */
    skipped: z.array(nameSchema).max(100),
    /** When it was said, where the house heard of it later: of a device that stood alone. */
    saidAt: z.iso.datetime().optional(),
  })
  .strict()
export type RoundDocument = z.infer<typeof roundDocumentSchema>

/** How a parked round ended: somebody took it up again, or threw it away. */
export const roundEndSchema = z.object({ why: z.enum(['takenUp', 'dropped']) }).strict()
export type RoundEnd = z.infer<typeof roundEndSchema>
