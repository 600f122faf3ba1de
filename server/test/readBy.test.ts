/** What pages are told to ask again for is what answers depend on: of every place whose answer is kept. */

import { EVENT_KINDS, type FeedKind, GLASSES, READ_BY } from '@conch/contract'
import { describe, expect, it } from 'vitest'
import { ROUTES } from '../app.ts'

/** What stands for several kinds, or for none that is in the chain. */
const STANDS_FOR: Record<string, readonly FeedKind[]> = {
  drafts: ['draft'],
  plannedDrinks: ['drink'],
  glasses: GLASSES,
  menuGlasses: GLASSES,
  usual: ['drink', 'plan', 'edition', 'decision', 'house'],
}

const kindsOf = (topics: readonly string[]): Set<string> =>
  new Set<string>(topics.flatMap((t): readonly string[] => STANDS_FOR[t] ?? [t.split('/')[0] ?? t]))

const KEPT = ROUTES.filter((r) => r.isKept)
const anything = { slug: 'x', number: 1, id: 1, of: ['x'] }

describe('what an answer follows from', () => {
  it('is known of every place that is read by pages', () => {
    const places = ROUTES.filter((r) => r.method === 'get').map((r) => r.path)
    for (const path of Object.keys(READ_BY)) expect(places).toContain(path)
    // What nobody shows for longer than they look, or is asked for each time.
    const not = places.filter((p) => !(p in READ_BY) && !/\.(csv|pdf)$/.test(p))
    expect(not.sort()).toEqual([
      '/api/audit',
      '/api/export',
      '/api/feed',
      '/api/import/{id}',
      '/api/own-doings',
      '/api/ready',
      '/api/sign-in',
      '/api/verify',
    ])
  })

  it.each(KEPT.map((r) => [r.path, r] as const))('%s: pages hear of all of it', (path, { reads }) => {
    const topics = typeof reads === 'function' ? reads(anything as never, anything as never) : (reads ?? [])
    expect(topics.length).toBeGreaterThan(0)
    const told = new Set<string>(READ_BY[path as keyof typeof READ_BY])
    for (const kind of kindsOf(topics)) expect(`${path}: ${kind} ${told.has(kind)}`).toBe(`${path}: ${kind} true`)
    for (const kind of told) expect([...EVENT_KINDS, 'draft']).toContain(kind)
  })
})
