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
  'session',
  'device',
  'out',
  'tonight',
  'round',
  'practice',
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
  'signedIn',
  'signedOut',
  'locked',
  'lifted',
  'coded',
  'enrolled',
  'removed',
  'ranOut',
  'ranLow',
  'ended',
  'chosen',
  'parked',
  'takenUp',
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

const day = z.iso.date()
/** What of the audit is looked for. */
export const auditQuery = z.strictObject({
  /** The number of a person. */
  who: z.coerce.number().int().min(1).max(2_147_483_647).optional(),
  kind: z.enum(EVENT_KINDS).optional(),
  /** All of them, somewhere in it. */
  words: z.string().max(200).optional(),
  /** Nights in the house, both counted in. */
  from: day.optional(),
  to: day.optional(),
  /** What comes before this place in the chain: the next page. */
  before: z.coerce.number().int().min(1).max(2_147_483_647).optional(),
})
export type AuditQuery = z.infer<typeof auditQuery>

export const auditPageSchema = z.object({
  entries: z.array(auditEntrySchema),
  /** Where the next page begins; null: there is none. */
  next: z.number().int().nullable(),
  /** The end of the chain. */
  head: z.object({ sequence: z.number().int(), hash: z.string() }),
})
export type AuditPage = z.infer<typeof auditPageSchema>

/** What somebody did, for themselves: no more than that they did it. */
export const doingSchema = auditEntrySchema.pick({ at: true, kind: true, verb: true, subject: true })
export type Doing = z.infer<typeof doingSchema>
