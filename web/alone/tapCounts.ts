/** How much waits on this device, for the line that says so: the list itself comes when it is opened. */

import { useSyncExternalStore } from 'react'

interface Counts {
  waiting: number
  refused: number
}

let counts: Counts = { waiting: 0, refused: 0 }
const listeners = new Set<() => void>()

export function setTapCounts(now: Counts): void {
  if (now.waiting === counts.waiting && now.refused === counts.refused) return
  counts = now
  for (const changed of listeners) changed()
}

const subscribe = (changed: () => void) => {
  listeners.add(changed)
  return () => void listeners.delete(changed)
}

export const useTapCounts = (): Counts => useSyncExternalStore(subscribe, () => counts)
