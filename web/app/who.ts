import { type Role, whileLocked, youSchema } from '@conch/contract'
import { useSyncExternalStore } from 'react'
import { z } from 'zod'
import { forgetSealed, readStored, writeStored } from './stored.ts'

/** Who is signed in on this device, as it heard last; the server knows by a cookie that no page can read. */
export type Who = z.infer<typeof whoSchema>
const whoSchema = youSchema.pick({ id: true, name: true, role: true }).extend({
  /** Nobody has touched anything for a while: what is shown stays, and whoever taps next says who they are. */
  isLocked: z.boolean().optional(),
  /** They said so while the house was away: nobody could look whether it is true. */
  isUnconfirmed: z.boolean().optional(),
  /** Whose sign-in the house still has for this device, where it is somebody else’s. */
  session: z.number().optional(),
  /** The house takes the screen for open still: until it was told otherwise it is asked for nothing. */
  isUntold: z.boolean().optional(),
})

const KEY = 'conch:who'
const listeners = new Set<() => void>()
let current: Who | undefined = readStored(KEY, whoSchema)

/** Undefined until somebody has signed in. */
export const readWho = (): Who | undefined => current

const tellAll = () => {
  for (const listener of listeners) listener()
}

function change(who: Who | undefined): void {
  if (who?.id !== current?.id || who?.role !== current?.role) forgetSealed()
  current = who
  writeStored(KEY, who)
  tellAll()
}

export const setWho = ({ id, name, role, isLocked }: Who): void =>
  change({ id, name, role, ...(isLocked ? { isLocked } : {}) })

/** The house does not know them (any more): whoever is here signs in. */
export const forgetWho = (): void => change(undefined)

/** What was open to them is not to whoever comes by: they see what the bar sees. The house is told of it next. */
export function lockWho({ isTold = false } = {}): void {
  if (!current || current.isLocked) return
  const { isUntold: _, ...who } = current
  change({ ...who, role: whileLocked(current.role), isLocked: true, ...(isTold ? {} : { isUntold: true }) })
}

/** The house has been told that the screen is locked: whoever reads on reads what the bar may. */
export function setTold(): void {
  if (!current?.isUntold) return
  const { isUntold: _, ...who } = current
  change(who)
}

/**
 * Somebody goes on here while the house is away. Their word is all there is: they read what the bar reads, and what they tap
 * waits until they have said their PIN.
 */
export function goOnAs({ id, name }: Pick<Who, 'id' | 'name'>): void {
  if (!current || current.role === 'viewer') return
  const session = current.session ?? current.id
  const isUntold = current.isLocked ? current.isUntold : true
  change({ id, name, role: 'bartender', isUnconfirmed: true, session, ...(isUntold ? { isUntold } : {}) })
}

// Another page of this browser: they share one sign-in.
window.addEventListener('storage', (event) => {
  if (event.key !== KEY) return
  const before = current
  current = readStored(KEY, whoSchema)
  tellAll()
  whenElsewhere(before, current)
})

let whenElsewhere: (before: Who | undefined, now: Who | undefined) => void = () => {}
/** Says what is done when another page of this browser said who is here: once, when the page begins. */
export const setWhenElsewhere = (work: typeof whenElsewhere): void => {
  whenElsewhere = work
}

const subscribe = (listener: () => void) => {
  listeners.add(listener)
  return () => void listeners.delete(listener)
}
/** Told whenever it is somebody else, or the same one otherwise. */
export const onWho = subscribe

/** Who is signed in, if anybody is. */
export const useMaybeWho = (): Who | undefined => useSyncExternalStore(subscribe, readWho)

/** Who is signed in: inside of what is only shown when that is known. */
export function useWho(): Who {
  const who = useMaybeWho()
  // While the page is being taken away: nobody may do anything.
  return who ?? { id: 0, name: '', role: 'viewer' satisfies Role }
}
