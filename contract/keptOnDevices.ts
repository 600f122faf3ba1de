/** Which answers of the house a device keeps for when it stands alone, and for whom. Nothing sealed, nothing personal, nothing of a sign-in. */

import type { ReadPlace } from './readBy.ts'
import type { Role } from './roles.ts'

/** For whom an answer is right: whoever tends bar, those of them who write, the guests, or anybody. */
export type Audience = 'bar' | 'writers' | 'guests' | 'anybody'

/** For the bar: the poured edition with its cards, what is out, and what was opened here lately. */
export const KEPT_FOR_BAR = [
  '/api/house',
  '/api/tonight',
  '/api/tonight/markables',
  '/api/menu',
  '/api/menu/poured',
  '/api/drinks/{slug}',
  '/api/drinks/{slug}/versions/{number}/notes',
  '/api/versions',
  '/api/shelf',
  '/api/shelf/rows',
  '/api/editions',
  '/api/editions/{number}',
  '/api/lots',
  '/api/lots/{id}',
  '/api/pourable',
  '/api/rounds',
  '/api/menu/next',
  '/api/ingredients/{slug}/mixes',
  '/api/ingredients/{slug}/recipes',
] as const satisfies readonly ReadPlace[]
/** What somebody was writing on this device goes on. */
export const KEPT_FOR_WRITERS = [
  '/api/drinks/{slug}/draft',
  '/api/ingredients/{slug}/draft',
  '/api/slots/{slug}/draft',
] as const satisfies readonly ReadPlace[]
export const KEPT_FOR_GUESTS = ['/api/published-menu'] as const satisfies readonly ReadPlace[]
/** Whether there is a house at all. */
export const KEPT_FOR_ANYBODY = ['/api/ready'] as const

const patternOf = (place: string) => new RegExp(`^${place.replace(/\{\w+\}/g, '[^/]+')}$`)
const PATTERNS = (
  [
    [KEPT_FOR_BAR, 'bar'],
    [KEPT_FOR_WRITERS, 'writers'],
    [KEPT_FOR_GUESTS, 'guests'],
    [KEPT_FOR_ANYBODY, 'anybody'],
  ] as const
).flatMap(([places, audience]) => places.map((place) => [patternOf(place), audience] as const))

/** For whom the answer to an address is kept; undefined: for nobody. */
export function audienceOf(address: string): Audience | undefined {
  const [path = ''] = address.split('?')
  return PATTERNS.find(([pattern]) => pattern.test(path))?.[1]
}

/** Of which answers a role has its part; a manager reads what is sealed, and nothing of that stays on a device. */
export const AUDIENCES_OF_ROLE: Record<Role, readonly Audience[]> = {
  manager: [],
  lead: ['bar', 'writers'],
  bartender: ['bar'],
  viewer: ['guests'],
}
