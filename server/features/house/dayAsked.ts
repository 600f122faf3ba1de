import { clockOf, dayText, nightOf } from '@conch/core/calendar'
import type { Settings } from '@conch/core/house'
import { invalid } from '../../errors/Refusal.ts'

/**
 * The day that something is written down for: as asked, or the night it is in the house.
 * @throws Refusal naming the field when that night has not begun
 */
export function dayAsked(
  field: string,
  asked: string | undefined,
  settings: Settings,
  now: Date,
): { day: string; today: string } {
  const today = nightOf(now, clockOf(settings))
  const day = asked ?? today
  if (day > today) throw invalid(field, `${dayText(day)} is not yet; at the latest ${dayText(today)}`)
  return { day, today }
}
