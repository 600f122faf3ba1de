/** What each answer follows from: so that a page asks again for what changed, and for nothing else. */

import type { EventKind } from './events.ts'
import type { FeedKind } from './feed.ts'

const SHELF = ['ingredient', 'bottles', 'house'] as const
const PLAN = ['plan', 'decision', 'edition', 'house'] as const
const WELL = ['well', 'station', 'trial', 'settings'] as const
/** What a glass is computed from, and which glasses there are. */
export const GLASSES = ['drink', ...SHELF, ...PLAN, ...WELL, 'glass', 'slot', 'lot', 'out'] as const

/** By the address, with `{name}` for what stands in it. */
export const READ_BY = {
  '/api/people': ['person', 'house'],
  '/api/house': [...WELL, 'glass', 'slot', 'lot', ...SHELF],
  '/api/shelf': [...SHELF, 'slot', 'settings', 'lot', 'flight'],
  '/api/shelf/rows': [...SHELF, 'settings', 'lot'],
  '/api/ingredients/{slug}/mixes': SHELF,
  '/api/ingredients/{slug}/recipes': SHELF,
  '/api/ingredients/{slug}/in-the-open': [...PLAN, ...SHELF, 'drink', 'settings'],
  '/api/ingredients/{slug}/others-know': [...SHELF, 'settings', 'lot'],
  '/api/usual-amounts': [...PLAN, 'drink', 'settings', ...SHELF],
  '/api/lots': ['lot', ...SHELF],
  '/api/lots/{id}': ['lot', ...SHELF],
  '/api/flights': ['flight', 'house'],
  '/api/tastings': ['tasting', 'drink', 'house'],
  '/api/tastings/{id}': ['tasting', 'drink', 'house'],
  '/api/tastings/{id}/key': ['tasting', 'house'],
  '/api/drinks/{slug}/versions/{number}/notes': ['note', 'house'],
  '/api/split-preps': ['batch', 'person', 'house'],
  '/api/trials': ['trial', 'station', 'house'],
  '/api/drinks': [...PLAN, 'drink', ...SHELF, 'settings', 'draft'],
  '/api/versions': ['drink', ...SHELF, 'settings'],
  '/api/drinks/{slug}': ['drink', ...PLAN, 'draft'],
  '/api/drinks/{slug}/lineage': ['drink', ...PLAN, 'draft'],
  '/api/research': ['drink', 'house'],
  '/api/decisions': ['decision', 'house'],
  '/api/drinks/{slug}/draft': ['draft', 'house'],
  '/api/ingredients/{slug}/draft': ['draft', 'house'],
  '/api/slots/{slug}/draft': ['draft', 'house'],
  '/api/menu': PLAN,
  '/api/menu/poured': [...GLASSES, 'tonight'],
  '/api/menu/next': GLASSES,
  '/api/menu/next/lock': GLASSES,
  '/api/shown-drinks': [...GLASSES, 'draft'],
  '/api/editions': ['edition', 'house'],
  '/api/editions/{number}': ['edition', ...SHELF],
  '/api/model': [...PLAN, 'well', 'station', 'trial'],
  '/api/published-menu': ['edition', 'out', 'tonight', 'lot', 'slot', 'well', 'glass', 'settings', ...SHELF],
  '/api/tonight': ['out', 'tonight', 'edition', 'lot', 'slot', 'well', 'glass', 'settings', ...SHELF],
  '/api/practice': ['practice', 'house'],
  '/api/practice/people': ['practice', 'person', 'house'],
  '/api/rounds': ['round', 'settings', 'house'],
  '/api/pourable': [...GLASSES, 'tonight'],
  '/api/tonight/markables': ['edition', 'lot', 'slot', 'glass', ...SHELF],
  '/api/devices': ['device', 'house'],
  '/api/sign-ins': ['session', 'person', 'device', 'house'],
} as const satisfies Record<string, readonly FeedKind[]>
export type ReadPlace = keyof typeof READ_BY

/** Of what one thing an answer is, where it is of one: a change of another thing of that kind leaves it alone. */
export const OF_ONE: Partial<Record<ReadPlace, EventKind | 'draft'>> = {
  '/api/drinks/{slug}': 'drink',
  '/api/lots/{id}': 'lot',
  '/api/drinks/{slug}/draft': 'draft',
  '/api/ingredients/{slug}/draft': 'draft',
  '/api/slots/{slug}/draft': 'draft',
}
