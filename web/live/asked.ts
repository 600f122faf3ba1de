/** Which of a page's questions follow from what: what the feed tells makes just these be asked again. */

import { type FeedFrame, OF_ONE, READ_BY, type ReadPlace } from '@conch/contract'
import type { QueryKey } from '@tanstack/react-query'

interface Asked {
  place: ReadPlace
  /** What one thing it asks about, as the feed names it behind its kind. */
  of?: string
}

/** What is the same whatever happens, or asks by itself. */
const NEVER: ReadonlySet<unknown> = new Set(['ready', 'signIn', 'import'])

const text = (part: unknown) => (typeof part === 'string' || typeof part === 'number' ? String(part) : undefined)
const DRAFTS: Record<string, ReadPlace> = {
  drink: '/api/drinks/{slug}/draft',
  ingredient: '/api/ingredients/{slug}/draft',
  slot: '/api/slots/{slug}/draft',
}

/** The question that a key stands for; `anything` where whatever happens may answer it otherwise. */
export function askedBy(key: QueryKey): Asked | 'anything' | 'never' {
  const [first, second, third] = key
  if (NEVER.has(first)) return 'never'
  const place = PLACES[String(first)]
  if (typeof place === 'function') return place(second, third)
  return place ? { place } : 'anything'
}

const KEPT_PLACES: Record<string, ReadPlace> = {
  poured: '/api/menu/poured',
  next: '/api/menu/next',
  shown: '/api/shown-drinks',
  open: '/api/ingredients/{slug}/in-the-open',
  shelf: '/api/shelf',
  rows: '/api/shelf/rows',
  holding: '/api/ingredients/{slug}/mixes',
  flights: '/api/flights',
  'lots of': '/api/lots',
  lots: '/api/lots',
  'others-know': '/api/ingredients/{slug}/others-know',
  pourable: '/api/pourable',
}

type Find = (second: unknown, third: unknown) => Asked | 'anything'

const ofDrinks: Find = (second, third) => {
  if (second === 'page' || second === 'list') return { place: '/api/drinks' }
  if (second === 'versions') return { place: '/api/versions' }
  if (second === 'research') return { place: '/api/research' }
  if (second === 'decisions') return { place: '/api/decisions' }
  if (third === 'lineage') return { place: '/api/drinks/{slug}/lineage' }
  const slug = text(second)
  return slug === undefined ? 'anything' : { place: '/api/drinks/{slug}', of: slug }
}

const ofDrafts: Find = (kind, subject) => {
  const place = DRAFTS[String(kind)]
  return place ? { place, of: `${String(kind)}/${String(subject)}` } : 'anything'
}

const PLACES: Record<string, ReadPlace | Find> = {
  people: '/api/people',
  house: '/api/house',
  drinks: ofDrinks,
  drafts: ofDrafts,
  menu: '/api/menu',
  editions: (second) => ({ place: second === undefined ? '/api/editions' : '/api/editions/{number}' }),
  model: '/api/model',
  kept: (second) => {
    const place = KEPT_PLACES[String(second)]
    return place ? { place } : 'anything'
  },
  tastings: (second, third) => ({
    place: third === 'key' ? '/api/tastings/{id}/key' : second === 'list' ? '/api/tastings' : '/api/tastings/{id}',
  }),
  'split-preps': '/api/split-preps',
  trials: '/api/trials',
  lots: (second) => {
    const id = text(second)
    return id !== undefined && /^\d+$/.test(id) ? { place: '/api/lots/{id}', of: id } : { place: '/api/lots' }
  },
  notes: '/api/drinks/{slug}/versions/{number}/notes',
  rounds: '/api/rounds',
  practice: (second) => ({ place: second === 'people' ? '/api/practice/people' : '/api/practice' }),
  publishedMenu: '/api/published-menu',
  recipes: '/api/ingredients/{slug}/recipes',
  'lock ahead': '/api/menu/next/lock',
  signIns: '/api/sign-ins',
  devices: '/api/devices',
  'usual-amounts': '/api/usual-amounts',
  tonight: '/api/tonight',
  markables: '/api/tonight/markables',
}

/** Whether what happened may have changed the answer to a question. */
export function isTouched(key: QueryKey, changed: FeedFrame['changed']): boolean {
  const asked = askedBy(key)
  if (asked === 'never') return false
  if (asked === 'anything' || changed === 'everything') return true
  const own = OF_ONE[asked.place]
  return READ_BY[asked.place].some((kind) => {
    if (!changed.includes(kind)) return false
    if (kind !== own || asked.of === undefined) return true
    const named = changed.filter((c) => c.startsWith(`${kind}/`))
    return named.length === 0 || named.includes(`${kind}/${asked.of}`)
  })
}
