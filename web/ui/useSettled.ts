import { useEffect, useState } from 'react'

/** A value when it has not changed for a moment: what is typed is not asked about letter by letter. */
export function useSettled<T>(value: T, waitMs: number): T {
  const [settled, setSettled] = useState(value)
  useEffect(() => {
    const timer = setTimeout(() => setSettled(value), waitMs)
    return () => clearTimeout(timer)
  }, [value, waitMs])
  return settled
}
