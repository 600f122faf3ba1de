/** What this device has been told once, and need not be told again. */

import { useSyncExternalStore } from 'react'
import { z } from 'zod'
import { readStored, writeStored } from '../app/stored.ts'

const KEY = 'conch:told'
const toldSchema = z.array(z.string())
const listeners = new Set<() => void>()
let told: readonly string[] = readStored(KEY, toldSchema) ?? []

function put(next: readonly string[]): void {
  told = next
  writeStored(KEY, next.length > 0 ? next : undefined)
  for (const listener of listeners) listener()
}

/** From now on it is not said again here. */
export const tell = (what: string) => put([...new Set([...told, what])])
/** Everything is said again, from the beginning. */
export const forgetTold = () => put([])

/** Whether this device was told. */
export function useTold(what: string): boolean {
  return useSyncExternalStore(
    (listener) => {
      listeners.add(listener)
      return () => listeners.delete(listener)
    },
    () => told.includes(what),
  )
}
