/** Whether this device hears the house, and since when it does not. */

import { useSyncExternalStore } from 'react'
import { z } from 'zod'
import { readStored, writeStored } from './stored.ts'

const KEY = 'conch:heard'
/** How often it is written down that the house is heard. */
const WRITE_EVERY_MS = 10_000

let aloneSince: Date | undefined
let isHeard = false
let written = 0
const listeners = new Set<() => void>()

/** The house was heard just now. */
export function hearHouse(): void {
  if (Date.now() - written < WRITE_EVERY_MS) return
  written = Date.now()
  writeStored(KEY, written)
}

/** A page that is opened while the house is away knows from an earlier one since when. */
const lastHeard = (): Date => {
  const at = readStored(KEY, z.number())
  return at === undefined || at > Date.now() ? new Date() : new Date(at)
}

export function setLine(isLive: boolean): void {
  const was = [aloneSince, isHeard]
  // On a page that heard the house itself it is known to the second.
  if (!isLive) aloneSince ??= isHeard ? new Date() : lastHeard()
  else {
    hearHouse()
    aloneSince = undefined
  }
  isHeard = isLive
  if (was[0] !== aloneSince || was[1] !== isHeard) for (const changed of listeners) changed()
}

const doubters = new Set<() => void>()
/** A question did not get through: whoever listens to the house looks whether it still does. */
export function doubtLine(): void {
  for (const look of doubters) look()
}
/** Told of every doubt. @returns ends it */
export function onDoubt(look: () => void): () => void {
  doubters.add(look)
  return () => void doubters.delete(look)
}
window.addEventListener('offline', doubtLine)

const subscribe = (changed: () => void) => {
  listeners.add(changed)
  return () => void listeners.delete(changed)
}

/** `unknown`: this page has not heard anything yet. */
export const lineNow = (): 'live' | 'alone' | 'unknown' => (aloneSince ? 'alone' : isHeard ? 'live' : 'unknown')

/** Told whenever the house is heard again, or not any more. */
export const onLine = subscribe

/** Since when nothing was heard of the house; undefined: it is heard. */
export const useAloneSince = (): Date | undefined => useSyncExternalStore(subscribe, () => aloneSince)
