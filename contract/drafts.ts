/** The open draft of a thing: one for each, shared by everybody, saved on the revision it was made from. */

import type { DrinkDocument } from '@conch/core/drink'
import { drinkDocumentSchema } from '@conch/core/drink/schema'
import type { Ingredient } from '@conch/core/house'
import { ingredientSchema, slugSchema } from '@conch/core/house/schema'
import type { Slot } from '@conch/core/palate'
import { slotSchema } from '@conch/core/schema/palate'
import { z } from 'zod'

/** What drafts are written of; the plan of the menu is a draft by itself. */
export interface DraftDocuments {
  drink: DrinkDocument
  ingredient: Ingredient
  slot: Slot
}
export type DraftKind = keyof DraftDocuments

export const DRAFT_SCHEMAS: { [K in DraftKind]: z.ZodType<DraftDocuments[K]> } = {
  drink: drinkDocumentSchema,
  ingredient: ingredientSchema,
  slot: slotSchema,
}

const revisionSchema = z.number().int().min(0).max(2_147_483_647)

/** A draft as it stands on the server. */
export const draftOf = <T extends z.ZodType>(document: T) =>
  z.object({
    /** Slug of what it is a draft of. */
    subject: slugSchema,
    /** A drink's version, or the revision of the saved thing, that it was begun from; null: from nothing. */
    baseVersion: z.number().int().min(0).nullable(),
    document,
    revision: revisionSchema,
    savedBy: z.string(),
    savedAt: z.string(),
  })
export interface Draft<D = DrinkDocument> {
  subject: string
  baseVersion: number | null
  document: D
  revision: number
  savedBy: string
  savedAt: string
}

/** A draft as it shall be, and the revision that it was made from; 0 begins one. */
export const saveDraftOf = <T extends z.ZodType>(document: T) =>
  z.strictObject({
    document,
    baseVersion: z.number().int().min(0).max(2_147_483_647).nullable(),
    revision: revisionSchema,
  })
