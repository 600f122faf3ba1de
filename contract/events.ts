/** What an event says: one for each write, in one chain. */

import { z } from 'zod'

/** What something happened to. */
export const EVENT_KINDS = [
  'house',
  'settings',
  'well',
  'glass',
  'ingredient',
  'slot',
  'bottles',
  'drink',
  'plan',
  'decision',
  'tasting',
  'note',
  'edition',
  'lot',
  'flight',
  'batch',
  'trial',
  'station',
  'person',
] as const
export type EventKind = (typeof EVENT_KINDS)[number]

/** What happened to it. */
export const EVENT_VERBS = [
  'began',
  'setUp',
  'imported',
  'made',
  'changed',
  'versioned',
  'hidden',
  'shown',
  'deleted',
  'published',
  'measured',
  'labelled',
  'usedUp',
  'discarded',
  'reopened',
  'tasted',
  'dealt',
  'excluded',
  'included',
  'calibrated',
  'retaken',
  'found',
  'decided',
  'closed',
  'abandoned',
  'answered',
] as const
export type EventVerb = (typeof EVENT_VERBS)[number]

/** A row of history that an event wrote: its table, its key, and a salted hash of everything in it. */
export const keptRowSchema = z.object({
  table: z.string(),
  key: z.array(z.union([z.string(), z.number()])),
  hash: z.string(),
})
export type KeptRow = z.infer<typeof keptRowSchema>

export const auditEntrySchema = z.object({
  /** Its place in the chain; an entry from before the chain has none. */
  sequence: z.number().int().nullable(),
  at: z.string(),
  by: z.string(),
  kind: z.string(),
  verb: z.string(),
  subject: z.string(),
  detail: z.record(z.string(), z.unknown()),
})
export type AuditEntry = z.infer<typeof auditEntrySchema>
