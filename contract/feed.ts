/** What happened, told to every page as it happens: never what it is now, only what is to be asked for again. */

import { keysOf } from '@conch/core/schema/keysOf'
import { z } from 'zod'
import { DRAFT_SCHEMAS } from './drafts.ts'
import { EVENT_KINDS, type EventKind } from './events.ts'
import { type Act, type Asker, mayDo } from './roles.ts'

/** What a page can hear of: a kind of thing that events happen to, or drafts, which are in no event. */
export type FeedKind = EventKind | 'draft'

/** Who hears of what: whoever may read it. A kind that is missing here does not compile. */
const HEARD_BY: Record<FeedKind, Act> = {
  house: 'readPublished',
  settings: 'readPublished',
  well: 'read',
  glass: 'read',
  ingredient: 'readPublished',
  slot: 'read',
  bottles: 'readPublished',
  drink: 'read',
  plan: 'read',
  decision: 'read',
  tasting: 'read',
  note: 'read',
  edition: 'readPublished',
  lot: 'read',
  flight: 'read',
  batch: 'prepare',
  trial: 'read',
  station: 'read',
  person: 'read',
  session: 'editPeople',
  device: 'editPeople',
  out: 'readPublished',
  tonight: 'readPublished',
  round: 'read',
  practice: 'practise',
  draft: 'read',
}
export const FEED_KINDS = [...EVENT_KINDS, 'draft'] as const

/** What somebody is told of something that happened: its kind, and of what, where they may know that. */
export function toldTo(role: Asker, kind: FeedKind, subject: string): string[] {
  if (!mayDo(role, HEARD_BY[kind])) return []
  if (role === 'viewer') return [kind]
  if (kind !== 'draft') return [kind, `${kind}/${subject}`]
  const mayWrite = mayDo(role, subject.startsWith('drink/') ? 'saveDraft' : 'editHouse')
  return mayWrite ? [kind, `${kind}/${subject}`] : [kind]
}

export const feedFrameSchema = z.object({
  /** How far the chain of events was: told again after a pause, nothing is missed. */
  sequence: z.number().int(),
  /** Kinds, and things of a kind as `kind/subject`; everything, where it is not known what was missed. */
  changed: z.union([z.array(z.string()), z.literal('everything')]),
})
export type FeedFrame = z.infer<typeof feedFrameSchema>

/** A draft that somebody has open: its kind and subject. */
export const draftPlaceSchema = z
  .string()
  .max(200)
  .regex(
    new RegExp(`^(${keysOf(DRAFT_SCHEMAS).join('|')})/[a-z0-9-]+$`),
    'write the kind and the name of a draft: drink/name',
  )

/** Which page of which device has a draft open. */
export const hereSchema = z.object({
  page: z.string().regex(/^[a-z0-9]{8,40}$/, 'a page calls itself by 8 to 40 letters and digits'),
  on: draftPlaceSchema.nullable(),
})

/** Who is on which draft. */
export const presentSchema = z.array(z.object({ page: z.string(), who: z.string(), on: z.string() }))
export type Present = z.infer<typeof presentSchema>

/** What is asked of the feed: everything behind a place in the chain. */
export const feedQuery = z.strictObject({
  after: z.coerce.number().int().min(0).max(2_147_483_647).optional(),
})
