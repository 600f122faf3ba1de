/** What this device has been told once, and need not be told again. */

import { z } from 'zod'
import { readStored, writeStored } from '../app/stored.ts'
import { followed } from '../ui/followed.ts'

const KEY = 'conch:told'
const toldSchema = z.array(z.string())
const told = followed<readonly string[]>(readStored(KEY, toldSchema) ?? [])

function put(next: readonly string[]): void {
  writeStored(KEY, next.length > 0 ? next : undefined)
  told.set(next)
}

/** From now on it is not said again here. */
export const tell = (what: string) => put([...new Set([...told.now(), what])])
/** Everything is said again, from the beginning. */
export const forgetTold = () => put([])

/** Whether this device was told. */
export const useTold = (what: string): boolean => told.use().includes(what)
