import { useSyncExternalStore } from 'react'

/** A value outside of any page, which pages follow. */
export interface Followed<T> {
  now: () => T
  /** Everybody who follows it is told; not where it is the same. */
  set: (next: T) => void
  /** @returns ends it */
  onChange: (listener: () => void) => () => void
  /** What it is, in a component that is drawn again when it changes. */
  use: () => T
}

export function followed<T>(first: T): Followed<T> {
  let value = first
  const listeners = new Set<() => void>()
  const now = () => value
  const onChange = (listener: () => void) => {
    listeners.add(listener)
    return () => void listeners.delete(listener)
  }
  return {
    now,
    set: (next) => {
      if (Object.is(next, value)) return
      value = next
      for (const listener of [...listeners]) listener()
    },
    onChange,
    use: () => useSyncExternalStore(onChange, now),
  }
}
