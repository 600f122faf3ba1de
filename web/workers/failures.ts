/** What the computing beside the page failed at: shown wherever one waits for it, with a way to try again. */

import { useSyncExternalStore } from 'react'

const failed = new Map<string, Error>()
const listeners = new Set<() => void>()
let first: Error | undefined
let attempt = 0

function tell(): void {
  first = failed.values().next().value
  for (const listener of listeners) listener()
}

export function noteFailure(key: string, error: unknown): void {
  failed.set(key, error instanceof Error ? error : new Error(String(error)))
  tell()
}

export function noteSuccess(key: string): void {
  if (failed.delete(key)) tell()
}

/** Asks everything again that is waited for. */
export function tryAgain(): void {
  failed.clear()
  attempt += 1
  tell()
}

const subscribe = (listener: () => void) => {
  listeners.add(listener)
  return () => void listeners.delete(listener)
}

/** What failed, while it has not come right. */
export const useFailure = (): Error | undefined => useSyncExternalStore(subscribe, () => first)
/** How often somebody asked for another try. */
export const useAttempt = (): number => useSyncExternalStore(subscribe, () => attempt)
