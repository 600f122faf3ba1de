/** A blind tasting, what is written on it, and what somebody says of a drink on a night. */

import { z } from 'zod'
import { versionKeySchema } from '../lineage/sourceSchema.ts'
import { nameSchema, slugSchema, textSchema } from '../schema/primitives.ts'

/** The lines on which drinks are judged: from one end over "right" to the other, or how much of something. */
export const TASTE_LINES = {
  balance: { low: 'too sweet', middle: 'right', high: 'too sour', least: -2, most: 2 },
  strength: { low: 'weak', middle: 'right', high: 'strong', least: -2, most: 2 },
  body: { low: 'thin', middle: 'right', high: 'heavy', least: -2, most: 2 },
  watery: { low: 'not watery', middle: 'a little', high: 'watery', least: 0, most: 2 },
  bitter: { low: 'not bitter', middle: 'a little', high: 'bitter', least: 0, most: 2 },
  froth: { low: 'no froth', middle: 'some', high: 'much froth', least: 0, most: 2 },
  like: { low: 'not for me', middle: 'all right', high: 'again, please', least: 1, most: 5 },
} as const
export type TasteLine = keyof typeof TASTE_LINES

const score = ({ least, most }: { least: number; most: number }) => z.number().int().min(least).max(most)

/** What one taster says of one glass; a line that nobody scored is left out. */
export const scoresSchema = z
  .object(
    Object.fromEntries(Object.entries(TASTE_LINES).map(([line, ends]) => [line, score(ends).optional()])) as Record<
      TasteLine,
      z.ZodOptional<z.ZodNumber>
    >,
  )
  .strict()
export type Scores = z.infer<typeof scoresSchema>

export const FEWEST_SUBJECTS = 2
export const MOST_SUBJECTS = 5
/** Every way in which chance may have dealt their scores is counted: so many at most. */
export const MOST_TASTERS = 16

/** What is tasted, by whom, and who alone knows which is which. */
export const tastingDocumentSchema = z
  .object({
    question: textSchema(300).min(3, 'say what the tasting is to decide'),
    subjects: z
      .array(versionKeySchema)
      .min(FEWEST_SUBJECTS, 'a tasting needs two versions at least')
      .max(MOST_SUBJECTS, 'more than five glasses nobody can tell apart'),
    tasters: z
      .array(nameSchema)
      .min(2, 'a tasting needs two tasters at least')
      .max(MOST_TASTERS, `a tasting has ${MOST_TASTERS} tasters at most`),
    /** Who makes the drinks, and does not taste. */
    maker: nameSchema,
    makerId: z.number().int().nullable(),
    /** In what order each taster tastes, by the codes of the glasses. */
    orders: z.array(z.array(z.string())),
    /** Of the key that says which code is which: nobody can change it afterwards. */
    keyHash: z.string(),
  })
  .strict()
export type TastingDocument = z.infer<typeof tastingDocumentSchema>

/** Which code is which, and a salt, or it could be guessed from its hash. */
export const tastingKeySchema = z.object({ codes: z.array(z.string()), salt: z.string() }).strict()
export type TastingKey = z.infer<typeof tastingKeySchema>

/** A sheet of one taster for one glass; a newer one for the same glass counts instead. */
export const tastingSheetSchema = z
  .object({ taster: nameSchema, code: z.string().max(8), scores: scoresSchema, words: textSchema(300).default('') })
  .strict()
export type TastingSheet = z.infer<typeof tastingSheetSchema>

export const tastingEventSchema = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('closed'), key: tastingKeySchema }).strict(),
  z.object({ kind: z.literal('abandoned'), why: textSchema(300).min(3, 'say in a few words why') }).strict(),
])
export type TastingEvent = z.infer<typeof tastingEventSchema>

/** What can be said of a drink with one tap, and what it asks of the glass. */
export const NOTE_WORDS = {
  tooSweet: 'too sweet',
  tooSour: 'too sharp',
  tooWeak: 'too weak',
  tooStrong: 'too strong',
  watery: 'watery',
  thin: 'thin',
  bitter: 'bitter',
  good: 'good',
} as const
export type NoteWord = keyof typeof NOTE_WORDS

/** A note from a night, tied to what was in the glass; or what became of what notes asked for. */
export const tasteNoteSchema = z.discriminatedUnion('kind', [
  z
    .object({
      kind: z.literal('note'),
      says: z.enum(Object.keys(NOTE_WORDS) as [NoteWord, ...NoteWord[]]),
      words: textSchema(300).default(''),
      well: slugSchema,
      /** Lots that were poured in it, and stations that made it, that night. */
      lots: z.array(z.number().int()).max(40),
      stations: z.array(slugSchema).max(10),
      /** When it was said, where the house heard of it later: of a device that stood alone. */
      saidAt: z.iso.datetime().optional(),
    })
    .strict(),
  z
    .object({
      kind: z.literal('answer'),
      isTaken: z.boolean(),
      words: textSchema(300).min(2, 'say in a word why'),
      /** What was asked for, in words. */
      proposal: z.string().max(300),
    })
    .strict(),
])
export type TasteNote = z.infer<typeof tasteNoteSchema>
