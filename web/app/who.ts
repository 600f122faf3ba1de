import { ROLES, type Role } from '@conch/contract'
import { useSyncExternalStore } from 'react'
import { forgetSealed, readStored, writeStored } from './stored.ts'

/** Who works at this device, until people sign in. */
export interface Who {
  role: Role
  name: string
}

const KEY = 'conch:who'
const A_YEAR_S = 31_536_000
const listeners = new Set<() => void>()
let current: Who = readStored<Who>(KEY) ?? { role: 'manager', name: ROLES.manager }
if (!Object.hasOwn(ROLES, current.role)) current = { role: 'manager', name: ROLES.manager }

/** For what the browser opens by itself, a label or a copy of the house: no header can be sent with a link. */
function tellBrowser({ role, name }: Who): void {
  const said = { 'conch-role': role, 'conch-name': name }
  for (const [key, value] of Object.entries(said)) {
    // biome-ignore lint/suspicious/noDocumentCookie: what replaces it is not in every browser yet
    document.cookie = `${key}=${encodeURIComponent(value)}; path=/; samesite=strict; max-age=${A_YEAR_S}`
  }
}
tellBrowser(current)

export const readWho = (): Who => current

export function setWho(who: Who): void {
  if (who.role !== current.role || who.name !== current.name) forgetSealed()
  current = who
  writeStored(KEY, who)
  tellBrowser(who)
  for (const listener of listeners) listener()
}

export function useWho(): Who {
  return useSyncExternalStore((listener) => {
    listeners.add(listener)
    return () => listeners.delete(listener)
  }, readWho)
}
