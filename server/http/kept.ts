/** Answers that are kept until something changes that they depend on: what did not change costs nothing. */

import { createHash } from 'node:crypto'
import { promisify } from 'node:util'
import { gunzipSync, gzip } from 'node:zlib'
import type { EventKind } from '@conch/contract'
import { clockOf, nightOf } from '@conch/core/calendar'
import type { Context } from 'hono'
import { LRUCache } from 'lru-cache'
import type { Actor } from '../access/actor.ts'
import { mayOpen } from '../access/seal.ts'
import type { Held } from '../held/index.ts'

/** What an answer can depend on: a kind of thing, one thing, some drinks, the drafts, or the figures that are kept. */
type HeldTopic = EventKind | `${EventKind}/${string}` | 'drafts' | 'plannedDrinks'
export type Topic = HeldTopic | 'glasses' | 'menuGlasses' | 'usual'

/** Bottles and mixes: one by one, or many by a table. */
export const SHELF: readonly Topic[] = ['ingredient', 'bottles']
/** Drinks and their versions; a new model of the ice may write some. */
export const DRINKS: readonly Topic[] = ['drink', 'house']
/** What is planned and poured: a decision changes the plan, publishing takes it on, and a new model may change it. */
export const PLAN: readonly Topic[] = ['plan', 'decision', 'edition', 'house']

/** What is out, and what was chosen for tonight, with all that it is about. */
export const TONIGHT: readonly Topic[] = [
  'out',
  'tonight',
  'lot',
  'slot',
  'well',
  'glass',
  'settings',
  'house',
  ...SHELF,
]

/** What an answer depends on besides its address and whether sealed formulas may be opened. */
export interface Keep<P, Q = undefined> {
  reads: readonly Topic[] | ((params: P, query: Q) => readonly Topic[])
  /** It is another one when the bar's day turns, or each half hour. */
  until?: 'night' | 'halfHour'
}

interface KeptAnswer {
  /** The state of everything it depends on. */
  state: string
  etag: string
  /** As it is, where it is small; else packed: a sixth of it, and hardly anybody wants it otherwise. */
  text: string | undefined
  packed: Buffer | undefined
}

const MOST_BYTES = 16_000_000
const HALF_HOUR_MS = 30 * 60_000
/** Smaller ones are not worth packing. */
const LEAST_PACKED = 1_000
const pack = promisify(gzip)

export class KeptAnswers {
  private readonly answers = new LRUCache<string, KeptAnswer>({
    maxSize: MOST_BYTES,
    sizeCalculation: (a) => 200 + (a.text?.length ?? 0) + (a.packed?.length ?? 0),
  })
  private readonly underWay = new Map<string, Promise<KeptAnswer>>()

  /** The kept answer, or a new one: made once, however many ask for it at the same time. */
  async get(key: string, state: string, make: () => Promise<unknown>): Promise<KeptAnswer> {
    const kept = this.answers.get(key)
    if (kept?.state === state) return kept
    const asked = `${key} ${state}`
    const before = this.underWay.get(asked)
    if (before) return before
    const mine = this.make(state, make)
      .then((answer) => {
        this.answers.set(key, answer)
        return answer
      })
      .finally(() => this.underWay.delete(asked))
    this.underWay.set(asked, mine)
    return mine
  }

  private async make(state: string, make: () => Promise<unknown>): Promise<KeptAnswer> {
    const text = JSON.stringify(await make())
    const packed = text.length >= LEAST_PACKED ? await pack(text) : undefined
    return { state, etag: etagOf(text), text: packed ? undefined : text, packed }
  }
}

/** Who knows the state of what answers depend on. */
interface Keepers {
  held: Held
  glasses: { state(): Promise<string>; menuState(): Promise<string> }
  usual: { state(): Promise<string> }
  now: () => Date
}

/** Another one for each state of everything that an answer depends on. */
export async function stateOf<P, Q>(
  { reads, until }: Keep<P, Q>,
  { params, query }: { params: P; query: Q },
  { held: holder, glasses, usual, now: clock }: Keepers,
): Promise<string> {
  const topics = typeof reads === 'function' ? reads(params, query) : reads
  const held = await holder.now()
  const now = clock()
  const keepers: Partial<Record<Topic, () => Promise<string>>> = {
    glasses: () => glasses.state(),
    menuGlasses: () => glasses.menuState(),
    usual: () => usual.state(),
  }
  const parts = await Promise.all(topics.map((topic) => keepers[topic]?.() ?? held.stateOf(topic as HeldTopic)))
  if (until === 'halfHour') parts.push(String(Math.floor(now.getTime() / HALF_HOUR_MS)))
  if (until && held.base) parts.push(nightOf(now, clockOf(held.base.settings)))
  return `${held.id} ${parts.join(' ')}`
}

/** Who gets the same answer from the same address. */
export const keyOf = (c: Context, { role }: Actor): string => {
  const { pathname, search } = new URL(c.req.url)
  return `${mayOpen(role) ? 'open' : 'closed'} ${pathname}${search}`
}

export const etagOf = (text: string): string => `"${createHash('sha1').update(text).digest('base64url')}"`

/** An answer with its ETag; without its body for whoever has it. */
export function answerUnlessSame(
  c: Context,
  { etag, text, packed }: Pick<KeptAnswer, 'etag' | 'text'> & { packed?: Buffer | undefined },
  { role }: Actor,
): Response {
  // What is sealed is not left lying in a browser that others use after them.
  const keeping = mayOpen(role) ? 'private, no-store' : 'private, no-cache'
  const headers = { etag, 'cache-control': keeping, vary: 'cookie, accept-encoding' }
  const known = c.req.header('if-none-match')?.split(',') ?? []
  // A proxy that packs the answer marks its tag as weak.
  if (known.some((tag) => tag.trim().replace(/^W\//, '') === etag)) return c.body(null, 304, headers)
  const type = { 'content-type': 'application/json' }
  if (packed && /\bgzip\b/.test(c.req.header('accept-encoding') ?? ''))
    return c.body(new Uint8Array(packed), 200, { ...headers, ...type, 'content-encoding': 'gzip' })
  return c.body(text ?? gunzipSync(packed ?? '').toString(), 200, { ...headers, ...type })
}
