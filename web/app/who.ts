import { ROLES, type Role } from '@conch/contract'
import { useSyncExternalStore } from 'react'
import { forgetSealed, readStored, writeStored } from './stored.ts'

/** Who works at this device, until people sign in. */
export interface Who {
  role: Role
  name: string
}

const KEY = 'conch:who'
const listeners = new Set<() => void>()
let current: Who = readStored<Who>(KEY) ?? { role: 'manager', name: ROLES.manager }
if (!Object.hasOwn(ROLES, current.role)) current = { role: 'manager', name: ROLES.manager }

export const readWho = (): Who => current

export function setWho(who: Who): void {
  if (who.role !== current.role || who.name !== current.name) forgetSealed()
  current = who
  writeStored(KEY, who)
  for (const listener of listeners) listener()
}

export function useWho(): Who {
  return useSyncExternalStore((listener) => {
    listeners.add(listener)
    return () => listeners.delete(listener)
  }, readWho)
}
