/** Whether a newer version of the pages is here, and how it is taken. */

import { useSyncExternalStore } from 'react'

let take: (() => Promise<void>) | undefined
const listeners = new Set<() => void>()

export function setNewer(how: () => Promise<void>): void {
  take = how
  for (const changed of listeners) changed()
}

const subscribe = (changed: () => void) => {
  listeners.add(changed)
  return () => void listeners.delete(changed)
}

/** Loads the newer version; undefined where there is none. */
export const useNewer = (): (() => Promise<void>) | undefined => useSyncExternalStore(subscribe, () => take)
