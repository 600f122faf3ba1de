/** Where a version comes from: what it is, when it was poured, where it was found, and what is still to be found out. */

import { z } from 'zod'
import { measuresHoldSchema } from '../schema/measuresHold.ts'
import { slugSchema, textSchema } from '../schema/primitives.ts'
import { RANGES, wholeWithin } from '../schema/ranges.ts'

/** How sure a claim is, the surest first. */
export const CERTAINTIES = ['documented', 'attributed', 'disputed', 'hearsay'] as const
export type Certainty = (typeof CERTAINTIES)[number]

/** What a source is. */
export const SOURCE_KINDS = ['book', 'card', 'menu', 'notebook', 'told', 'contest', 'other'] as const

/** What a source may claim about a drink. */
export const CLAIM_SUBJECTS = ['creator', 'place', 'year', 'contest'] as const

/** What a version is to the house. */
export const VERSION_KINDS = {
  historical: 'historical',
  adapted: 'adapted',
  riff: 'riff',
  trial: 'trial',
  house: 'house',
} as const
export type VersionKind = keyof typeof VERSION_KINDS

const claimSchema = z
  .object({
    about: z.enum(CLAIM_SUBJECTS),
    says: textSchema(200).min(1, 'say what it claims'),
    certainty: z.enum(CERTAINTIES),
  })
  .strict()

/** Where a version was found, and what that source says of it. Sources may contradict each other. */
export const versionSourceSchema = z
  .object({
    kind: z.enum(SOURCE_KINDS),
    title: textSchema(200).min(1, 'a source needs a title'),
    page: textSchema(40).optional(),
    year: textSchema(40).optional(),
    saidBy: textSchema(120).optional(),
    claims: z.array(claimSchema).max(20).default([]),
    /** The spec as it stands there, to the letter. */
    asWritten: textSchema(8000).optional(),
    /** What its own measures hold, where not what the house's do. */
    measures: measuresHoldSchema.partial().strict().optional(),
    /** How many it is written for. */
    serves: wholeWithin(RANGES.serves).optional(),
  })
  .strict()
export type VersionSource = z.infer<typeof versionSourceSchema>
export type Claim = VersionSource['claims'][number]

const yearSchema = z.number().int().min(1500).max(2200)

/** A span of years, both ends in it; an end that nobody knows is left out. */
export const yearsSchema = z
  .object({ fromYear: yearSchema.optional(), toYear: yearSchema.optional() })
  .strict()
  .refine((y) => y.fromYear !== undefined || y.toYear !== undefined, 'give the first year, the last, or both')
  .refine(
    (y) => y.fromYear === undefined || y.toYear === undefined || y.fromYear <= y.toYear,
    'the first year comes after the last',
  )
export type Years = z.infer<typeof yearsSchema>

/** What a version is, and the years that it belongs to where its words do not say them. */
export const versionOriginSchema = z
  .object({
    kind: z.enum(Object.keys(VERSION_KINDS) as [VersionKind, ...VersionKind[]]),
    years: yearsSchema.optional(),
  })
  .strict()
export type VersionOrigin = z.infer<typeof versionOriginSchema>

/** One version of one drink. */
export const versionKeySchema = z.strictObject({
  drink: slugSchema,
  version: z.number().int().min(1).max(2_147_483_647),
})
export type VersionKey = z.infer<typeof versionKeySchema>

const findingIdSchema = z.number().int().min(1).max(2_147_483_647)

/**
 * What is said of a version after it was saved: versions never change, research goes on. A question is open until it
 * has an answer; what was a mistake is withdrawn with a word, and stays readable.
 */
export const findingSchema = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('source'), source: versionSourceSchema }).strict(),
  /** It turned out to come from that version, too. */
  z.object({ kind: z.literal('from'), from: versionKeySchema }).strict(),
  z.object({ kind: z.literal('question'), asks: textSchema(300).min(3, 'say what is to be found out') }).strict(),
  z
    .object({
      kind: z.literal('answer'),
      question: findingIdSchema,
      says: textSchema(1000).min(2, 'say what was found out'),
    })
    .strict(),
  z
    .object({
      kind: z.literal('withdrawn'),
      finding: findingIdSchema,
      why: textSchema(300).min(3, 'say in a few words why'),
    })
    .strict(),
])
export type Finding = z.infer<typeof findingSchema>
