/** A tap of the night: done at once where the house is heard, else kept on this device and sent when it is back. */

import type { z } from 'zod'
import { api, assertMayWrite } from '../app/api.ts'
import { readWho } from '../app/who.ts'
import type { Tap, Tapped } from './taps.ts'

/** @throws ApiError with what is wrong, in words */
export async function tap<T>(what: Tap, schema: z.ZodType<T>): Promise<Tapped<T>> {
  // Whoever went on by their word alone may tap: it waits for their PIN.
  if (!readWho()?.isUnconfirmed) assertMayWrite(what.path)
  const taps = await import('./taps.ts').catch(() => undefined)
  // A part of the page that could not be fetched keeps nothing: then it is done now or not at all.
  if (!taps) return { done: await api.post(what.path, schema, what.body) }
  return taps.sayTap(what, schema)
}

/** Takes back what was only said here. @throws ApiError where it was sent meanwhile */
export async function takeBack(place: number): Promise<void> {
  const { dropTap } = await import('./taps.ts')
  if (!(await dropTap(place))) throw new Error('It was sent just now: look at what is there.')
}
