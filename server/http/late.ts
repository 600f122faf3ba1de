/** When something was said by a device that stood alone, and what it knew of the house. */

import { MOST_LATE_S, SAID_AGO, SEES } from '@conch/contract'
import type { Context } from 'hono'
import { invalid } from '../errors/Refusal.ts'
import type { Late } from '../events/index.ts'

/** What comes sooner is said as it is sent. */
const LATE_S = 10
/** Clocks tick a little differently: a word at the very end of its time is still one. */
const SLACK_S = 3_600

function readWhole(c: Context, name: string, most: number): number | undefined {
  const text = c.req.header(name)
  if (text === undefined) return undefined
  if (!/^\d{1,10}$/.test(text) || Number(text) > most) throw invalid(name, `is a whole number from 0 to ${most}`)
  return Number(text)
}

/**
 * Undefined for what is said as it is sent.
 * @throws Refusal `invalid` for a number that is none, or for a word so old that it may have been heard already
 */
export function readLate(c: Context, now: Date): Late | undefined {
  const agoS = readWhole(c, SAID_AGO, MOST_LATE_S + SLACK_S)
  if (agoS === undefined || agoS < LATE_S) return undefined
  const sees = readWhole(c, SEES, 2_147_483_647)
  return { at: new Date(now.getTime() - agoS * 1000), ...(sees === undefined ? {} : { sees }) }
}
