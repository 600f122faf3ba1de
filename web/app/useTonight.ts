import { type HouseClock, nightOf } from '@conch/core/calendar'
import { useEffect, useState } from 'react'

/** A page that stays open all night is at most so late for the next day. */
const LOOK_EVERY_MS = 30_000

/** The night it is in the house; changes by itself when the bar's day turns. @returns ISO date */
export function useTonight(clock: HouseClock): string {
  const { timeZone, dayTurnsAtHour } = clock
  const [, look] = useState(0)
  const tonight = nightOf(new Date(), { timeZone, dayTurnsAtHour })
  useEffect(() => {
    const timer = setInterval(() => {
      if (nightOf(new Date(), { timeZone, dayTurnsAtHour }) !== tonight) look((n) => n + 1)
    }, LOOK_EVERY_MS)
    return () => clearInterval(timer)
  }, [timeZone, dayTurnsAtHour, tonight])
  return tonight
}
