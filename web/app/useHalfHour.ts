import { useEffect, useState } from 'react'

export const HALF_HOUR_MS = 30 * 60_000
const LOOK_EVERY_MS = 60_000

const halfHourNow = () => Math.floor(Date.now() / HALF_HOUR_MS)

/** Which half hour it is, counted from 1970: for ages that nobody needs to the minute. */
export function useHalfHour(): number {
  const [halfHour, setHalfHour] = useState(halfHourNow)
  useEffect(() => {
    const timer = setInterval(() => setHalfHour(halfHourNow()), LOOK_EVERY_MS)
    return () => clearInterval(timer)
  }, [])
  return halfHour
}
