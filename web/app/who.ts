import { personSchema } from '@conch/contract'
import { useSyncExternalStore } from 'react'
import { z } from 'zod'
import { forgetSealed, readStored, writeStored } from './stored.ts'

/** Who works at this device, until people sign in. */
export type Who = z.infer<typeof whoSchema>
const whoSchema = z.object({
  id: personSchema.shape.id,
  name: personSchema.shape.name,
  role: personSchema.shape.role,
})

const KEY = 'conch:who'
const COOKIE = 'conch-person'
const A_YEAR_S = 31_536_000
const listeners = new Set<() => void>()
let current: Who | undefined = readStored(KEY, whoSchema)

/** For what the browser opens by itself, a label or a copy of the house: no header can be sent with a link. */
function tellBrowser(who: Who | undefined): void {
  const value = who ? `${who.id}; max-age=${A_YEAR_S}` : '; max-age=0'
  // biome-ignore lint/suspicious/noDocumentCookie: what replaces it is not in every browser yet
  document.cookie = `${COOKIE}=${value}; path=/; samesite=strict`
}
tellBrowser(current)

/** Undefined until somebody said so. */
export const readWho = (): Who | undefined => current

function change(who: Who | undefined): void {
  if (who?.id !== current?.id) forgetSealed()
  current = who
  writeStored(KEY, who)
  tellBrowser(who)
  for (const listener of listeners) listener()
}

export const setWho = ({ id, name, role }: Who): void => change({ id, name, role })

/** The house does not know them (any more): it is asked again who works. */
export const forgetWho = (): void => change(undefined)

const subscribe = (listener: () => void) => {
  listeners.add(listener)
  return () => void listeners.delete(listener)
}

/** Who works here, if anybody said so. */
export const useMaybeWho = (): Who | undefined => useSyncExternalStore(subscribe, readWho)

/** Who works here: inside of what is only shown when that is known. */
export function useWho(): Who {
  const who = useMaybeWho()
  // While the page is being taken away: nobody may do anything.
  return who ?? { id: 0, name: '', role: 'bartender' }
}
