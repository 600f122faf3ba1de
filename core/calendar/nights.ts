/**
 * The house's days. A bar's day is a night: it turns at an hour that the house sets, on the wall clock of
 * its own zone, wherever the device or the server stands. A day is an ISO date, "2026-11-28".
 */

import { TZDate } from '@date-fns/tz'
import { addDays, differenceInCalendarDays, parseISO } from 'date-fns'

/** Where a house's clock hangs, and when its day ends. */
export interface HouseClock {
  /** IANA name: "Europe/Lisbon". */
  timeZone: string
  /** The hour of the wall clock at which the next day begins, 0 to 12. */
  dayTurnsAtHour: number
}

/** Until a house says otherwise. */
export const DEFAULT_CLOCK: HouseClock = { timeZone: 'UTC', dayTurnsAtHour: 6 }

/** The clock of a house that may not have said anything yet. */
export const clockOf = (settings: { clock?: HouseClock | undefined }): HouseClock => settings.clock ?? DEFAULT_CLOCK

/** Making a format costs much more than using it: one for each zone is kept. */
const wallClocks = new Map<string, Intl.DateTimeFormat>()

/** Whether this is a zone that the clock can be set to. */
export function isTimeZone(name: string): boolean {
  try {
    wallClockOf(name)
    return true
  } catch {
    return false
  }
}

function wallClockOf(timeZone: string): Intl.DateTimeFormat {
  const known = wallClocks.get(timeZone)
  if (known) return known
  const parts = { year: 'numeric', month: 'numeric', day: 'numeric', hour: 'numeric', minute: 'numeric' } as const
  // h23, or midnight comes out as 24.
  const made = new Intl.DateTimeFormat('en-GB', { timeZone, hourCycle: 'h23', ...parts })
  wallClocks.set(timeZone, made)
  return made
}

/** The last minute that was asked for: most who ask, ask for now. Zones are whole minutes apart. */
let lastMinute: { minute: number; timeZone: string; shown: ReturnType<typeof readClock> } | undefined
const MINUTE_MS = 60_000

/** What the wall clock of a zone shows at a moment; month 1 to 12. */
export function wallClock(at: Date, timeZone: string) {
  const minute = Math.floor(at.getTime() / MINUTE_MS)
  if (lastMinute?.minute !== minute || lastMinute.timeZone !== timeZone)
    lastMinute = { minute, timeZone, shown: readClock(at, timeZone) }
  return lastMinute.shown
}

function readClock(at: Date, timeZone: string) {
  const parts = Object.fromEntries(
    wallClockOf(timeZone)
      .formatToParts(at)
      .map((p) => [p.type, Number(p.value)]),
  )
  const { year = 0, month = 0, day = 0, hour = 0, minute = 0 } = parts
  return { year, month, day, hour, minute }
}

/** The ISO date of a date that exists in no zone. */
const isoOf = (utc: Date) => utc.toISOString().slice(0, 10)

/**
 * The night that a moment belongs to. By the wall clock, not by subtracting hours: on the two nights on
 * which clocks change the day would turn an hour off.
 */
export function nightOf(at: Date, { timeZone, dayTurnsAtHour }: HouseClock): string {
  const { year, month, day, hour } = wallClock(at, timeZone)
  return isoOf(new Date(Date.UTC(year, month - 1, day - (hour < dayTurnsAtHour ? 1 : 0))))
}

/** The moment at which a night begins; it lasts 23 or 25 hours when the clocks change. */
export function startOfNight(day: string, { timeZone, dayTurnsAtHour }: HouseClock): Date {
  const [year = 0, month = 1, date = 1] = day.split('-').map(Number)
  return new Date(new TZDate(year, month - 1, date, dayTurnsAtHour, 0, 0, timeZone).getTime())
}

/** A day so many days later; earlier with a negative number. */
export function dayAfter(day: string, days: number): string {
  return isoOf(new Date(addDays(new TZDate(`${day}T00:00:00Z`, 'UTC'), days).getTime()))
}

/** Days from one to another: 1 from a day to the next, negative backwards. */
export function daysBetween(from: string, to: string): number {
  return differenceInCalendarDays(parseISO(to), parseISO(from))
}
