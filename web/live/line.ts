/** Whether this device hears the house, and since when it does not. */

import { useSyncExternalStore } from 'react'

let aloneSince: Date | undefined
const listeners = new Set<() => void>()

export function setLine(isLive: boolean): void {
  const was = aloneSince
  if (isLive) aloneSince = undefined
  else aloneSince ??= new Date()
  if (was !== aloneSince) for (const changed of listeners) changed()
}

const subscribe = (changed: () => void) => {
  listeners.add(changed)
  return () => void listeners.delete(changed)
}

/** Since when nothing was heard of the house; undefined: it is heard. */
export const useAloneSince = (): Date | undefined => useSyncExternalStore(subscribe, () => aloneSince)
