/** How much one who asks may ask: a page in a circle, or a program, does not take the house from the others. */

import type { MiddlewareHandler } from 'hono'
import { rateLimiter } from 'hono-rate-limiter'
import type { Actor } from '../access/actor.ts'
import { Refusal } from '../errors/Refusal.ts'

const WINDOW_MS = 10_000
/** Far more than a page with everything on it asks. */
const MOST_SIGNED_IN = 1_500
const MOST_STRANGERS = 400

/**
 * @param most requests in ten seconds of one who is signed in, for a house that is measured
 * @param mostStrangers of all who are not, from one address
 * @throws Refusal `tooMany`
 */
export const limitRate = (
  most = MOST_SIGNED_IN,
  mostStrangers = MOST_STRANGERS,
): MiddlewareHandler<{ Variables: { actor: Actor } }> =>
  rateLimiter<{ Variables: { actor: Actor } }>({
    windowMs: WINDOW_MS,
    standardHeaders: false,
    limit: (c) => (c.get('actor').session ? most : mostStrangers),
    keyGenerator: (c) => {
      const { session } = c.get('actor')
      return session ? `session ${session.id}` : `address ${c.get('visitor').address}`
    },
    handler: () => {
      throw new Refusal('tooMany', 'this device asks too much at once; wait some seconds', { waitS: WINDOW_MS / 1000 })
    },
  }) as MiddlewareHandler<{ Variables: { actor: Actor } }>
