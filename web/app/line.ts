/** Whether this device hears the house, and since when it does not. */

import { z } from 'zod'
import { followed } from '../ui/followed.ts'
import { readStored, writeStored } from './stored.ts'

const KEY = 'conch:heard'
/** How often it is written down that the house is heard. */
const WRITE_EVERY_MS = 10_000

interface Line {
  /** Undefined: it is heard, or nobody knows yet. */
  aloneSince: Date | undefined
  isHeard: boolean
}
const line = followed<Line>({ aloneSince: undefined, isHeard: false })
let written = 0

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
  const was = line.now()
  if (isLive) hearHouse()
  // On a page that heard the house itself it is known to the second.
  const aloneSince = isLive ? undefined : (was.aloneSince ?? (was.isHeard ? new Date() : lastHeard()))
  if (was.isHeard !== isLive || was.aloneSince !== aloneSince) line.set({ aloneSince, isHeard: isLive })
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

/** `unknown`: this page has not heard anything yet. */
export function lineNow(): 'live' | 'alone' | 'unknown' {
  const { aloneSince, isHeard } = line.now()
  return aloneSince ? 'alone' : isHeard ? 'live' : 'unknown'
}

/** Told whenever the house is heard again, or not any more. */
export const onLine = line.onChange

/** Since when nothing was heard of the house; undefined: it is heard. */
export const useAloneSince = (): Date | undefined => line.use().aloneSince
