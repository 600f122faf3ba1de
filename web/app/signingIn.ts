/** Coming in and leaving, as pages do it: what the one before could see is asked for anew. */

import { done, whileLocked, type You, youSchema } from '@conch/contract'
import { api } from './api.ts'
import { queryClient } from './queries.ts'
import { forgetWho, lockWho, readWho, setWho } from './who.ts'

/** What says who is here, and is the same for everybody. */
const STAYS: ReadonlySet<unknown> = new Set(['ready', 'signIn'])

/** Somebody has signed in on this device. */
export function workAs(you: You & { isLocked?: boolean }): void {
  const before = readWho()
  setWho(you.isLocked ? { ...you, role: whileLocked(you.role) } : you)
  void queryClient.invalidateQueries({ queryKey: ['signIn'] })
  const isSame = before?.id === you.id
  // The same hand goes on where it was.
  if (isSame) void queryClient.invalidateQueries({ predicate: (q) => !STAYS.has(q.queryKey[0]) })
  else void queryClient.resetQueries({ predicate: (q) => !STAYS.has(q.queryKey[0]) })
}

/** @throws ApiError with what is wrong, in words */
export async function signIn(name: string, secret: string): Promise<You> {
  const you = await api.post('/api/sign-in', youSchema, { name, secret })
  workAs(you)
  return you
}

function leave(): void {
  forgetWho()
  queryClient.removeQueries({ predicate: (q) => !STAYS.has(q.queryKey[0]) })
  queryClient.removeQueries({ queryKey: ['signIn'] })
}

/** Where the house cannot be told, nobody on this device is left signed in by the look of it alone. */
export async function signOut(isEverywhere = false): Promise<void> {
  if (isEverywhere) await api.post('/api/sign-out-everywhere', done, {})
  else await api.post('/api/sign-out', done, undefined)
  leave()
}

/** What only they could see goes from the screen; what the bar reads stays. */
export function lockScreen(): void {
  const who = readWho()
  if (!who || who.isLocked) return
  const hides = who.role === 'manager' || who.role === 'lead'
  // First the server: afterwards this page sends nothing any more.
  const told = api.post('/api/lock', done, undefined).catch(() => undefined)
  lockWho()
  if (hides) void told.then(() => queryClient.resetQueries({ predicate: (q) => !STAYS.has(q.queryKey[0]) }))
}
