/** Coming in and leaving, as pages do it: what the one before could see is asked for anew. */

import { done, mayDo, signInStateSchema, whileLocked, type You, youSchema } from '@conch/contract'
import { api, setWhenNobody, takeKeptShown } from './api.ts'
import { queryClient } from './queries.ts'
import { forgetWho, goOnAs, lockWho, readWho, setTold, setWhenElsewhere, setWho, type Who } from './who.ts'

/** What says who is here, and is the same for everybody. */
const STAYS: ReadonlySet<unknown> = new Set(['ready', 'signIn'])
/** Everything else: as whoever is here may see it. */
const THEIRS = { predicate: ({ queryKey }: { queryKey: readonly unknown[] }) => !STAYS.has(queryKey[0]) }

/** Somebody has signed in on this device. */
export function workAs(you: You & { isLocked?: boolean }): void {
  const before = readWho()
  setWho(you.isLocked ? { ...you, role: whileLocked(you.role) } : you)
  void queryClient.invalidateQueries({ queryKey: ['signIn'] })
  const isSame = before?.id === you.id
  // The same hand goes on where it was.
  if (isSame) void queryClient.invalidateQueries(THEIRS)
  else void queryClient.resetQueries(THEIRS)
}

/** Somebody goes on here while the house is away: what only a manager could see goes from the screen and from memory. */
export function goOn(person: Pick<Who, 'id' | 'name'>): void {
  const before = readWho()
  goOnAs(person)
  if (before && mayDo(before.role, 'openSealed')) void queryClient.resetQueries(THEIRS)
}

/** What is done first while the one before is still signed in: they said something that is not sent yet. */
let beforeLeaving: () => Promise<unknown> = async () => {}
export const setBeforeLeaving = (work: () => Promise<unknown>): void => {
  beforeLeaving = work
}

// Another page of this browser was locked, or given to somebody else: what only a manager sees goes from this one, too.
setWhenElsewhere((before, now) => {
  if (before && now && mayDo(before.role, 'openSealed') && !mayDo(now.role, 'openSealed'))
    void queryClient.resetQueries(THEIRS)
})

let looking: Promise<void> | undefined
/** Somebody signed out elsewhere, or is in another role, or somebody else came: this page is for whoever is signed in now. */
export function lookWhoIsHere(): Promise<void> {
  looking ??= askWhoIsHere().finally(() => {
    looking = undefined
  })
  return looking
}
setWhenNobody(lookWhoIsHere)

/** Somebody is saying who they are: the one before is not signed in any more, and this page does not know the new one yet. */
let comingIn: Promise<unknown> | undefined

async function askWhoIsHere(): Promise<void> {
  await comingIn?.catch(() => {})
  const state = await api.get('/api/sign-in', signInStateSchema).catch(() => undefined)
  // Somebody goes on here by their word alone: it is still the sign-in of the one before.
  if (state?.you && readWho()?.session === state.you.id) return
  if (state?.you) workAs(state.you)
  else if (state) forgetWho()
}

/** @throws ApiError with what is wrong, in words */
export async function signIn(name: string, secret: string): Promise<You> {
  await beforeLeaving()
  const asked = api.post('/api/sign-in', youSchema, { name, secret }).then((you) => {
    workAs(you)
    return you
  })
  comingIn = asked
  try {
    return await asked
  } finally {
    if (comingIn === asked) comingIn = undefined
  }
}

function leave(): void {
  forgetWho()
  queryClient.removeQueries(THEIRS)
  queryClient.removeQueries({ queryKey: ['signIn'] })
}

/** Where the house cannot be told, nobody on this device is left signed in by the look of it alone. */
export async function signOut(isEverywhere = false): Promise<void> {
  await beforeLeaving()
  if (isEverywhere) await api.post('/api/sign-out-everywhere', done, {})
  else await api.post('/api/sign-out', done, undefined)
  leave()
}

/** What only they could see goes from the screen; what the bar reads stays. */
export function lockScreen(): void {
  const who = readWho()
  if (!who || who.isLocked) return
  const hides = who.role === 'manager' || who.role === 'lead'
  lockWho()
  const told = tellLocked()
  // Where the house cannot be told, the bar's own answers are shown, if this device has any.
  const isLong = new Promise((resolve) => setTimeout(resolve, LONG_MS))
  if (hides) void Promise.race([told, isLong]).then(() => queryClient.resetQueries(THEIRS))
}

const LONG_MS = 1_500

let telling: Promise<boolean> | undefined
/** Tells the house that the screen is locked, or somebody else's by their word alone. @returns whether it knows by now */
export function tellLocked(): Promise<boolean> {
  telling ??= tellOnce().finally(() => {
    telling = undefined
  })
  return telling
}

async function tellOnce(): Promise<boolean> {
  const who = readWho()
  if (!who?.isUntold) return true
  try {
    await api.post('/api/lock', done, undefined)
  } catch {
    return false
  }
  const now = readWho()
  if (now?.id === who.id && now.session === who.session) setTold()
  // What was answered from what is kept meanwhile is asked for now.
  if (takeKeptShown()) void queryClient.invalidateQueries(THEIRS)
  return true
}
