/** Days and moments as they are written everywhere: on screens, labels and in sentences. */

import { parseISO } from 'date-fns'
import { type HouseClock, nightOf, wallClock } from './nights.ts'

const two = (n: number) => String(n).padStart(2, '0')

/** Months are called as the browser calls them: a package's formatter would be a fortieth of the first page. */
const MONTH = new Intl.DateTimeFormat('en-US', { month: 'short', timeZone: 'UTC' })

function dayAndMonth(date: Date): string {
  return `${date.getDate()} ${MONTH.format(Date.UTC(2000, date.getMonth(), 1))}`
}

/** "9 Nov 2026". @param day ISO date; @throws RangeError where it is none */
export function dayText(day: string): string {
  const date = parseISO(day)
  return `${dayAndMonth(date)} ${String(date.getFullYear()).padStart(4, '0')}`
}

/** "9 Nov", with its year when that is not today's. */
export const shortDayText = (day: string, today: string): string =>
  day.slice(0, 4) === today.slice(0, 4) ? dayAndMonth(parseISO(day)) : dayText(day)

/** The night of a moment: "9 Nov 2026". @param at ISO moment */
export const nightText = (at: string, clock: HouseClock): string => dayText(nightOf(new Date(at), clock))

/** What the house's clock showed: "01:30". @param at ISO moment */
export function clockText(at: string, { timeZone }: HouseClock): string {
  const { hour, minute } = wallClock(new Date(at), timeZone)
  return `${two(hour)}:${two(minute)}`
}

/** "10 Nov 2026, 01:30", by the calendar on the wall. @param at ISO moment */
export function momentText(at: string, clock: HouseClock): string {
  const { year, month, day } = wallClock(new Date(at), clock.timeZone)
  return `${dayText(`${year}-${two(month)}-${two(day)}`)}, ${clockText(at, clock)}`
}
