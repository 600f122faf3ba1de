import { dayAfter, daysBetween } from '../calendar/index.ts'
import type { Lot } from './lotSchema.ts'
import type { Measured } from './measured.ts'

export type LotStanding = 'fresh' | 'due' | 'expired' | 'gone'

/** How a lot ended, unless that was taken back; undefined while it is there. */
export function endOf(lot: Lot): 'usedUp' | 'discarded' | undefined {
  for (const { event } of lot.events.toReversed()) {
    if (event.kind === 'usedUp' || event.kind === 'discarded') return event.kind
    if (event.kind === 'reopened') return undefined
  }
  return undefined
}

/** What keeps longer than this is due a day before its last, days. */
const SHORT_DAYS = 2

/** Where a lot stands on a day: due on its last day, and the day before unless it is short-lived. @param today ISO date */
export function standingOfLot(lot: Lot, today: string): LotStanding {
  if (endOf(lot)) return 'gone'
  if (lot.useBy === null) return 'fresh'
  if (today > lot.useBy) return 'expired'
  const noticeDays = daysBetween(lot.madeOn, lot.useBy) > SHORT_DAYS ? 1 : 0
  return daysBetween(today, lot.useBy) <= noticeDays ? 'due' : 'fresh'
}

/** The lots in it, at any depth, that are past their day; none where the house decided that it keeps longer than they do. */
export function staleOfLot(lot: Lot, today: string): NonNullable<Lot['document']['madeWith']> {
  if (lot.document.recipe?.keepsDecision) return []
  return (lot.document.madeWith ?? []).filter((w) => w.useBy < today)
}

/**
 * The first night on which one of these lots stands otherwise than tonight, or something in it does: what is said of them
 * holds until then. Undefined: none will by itself.
 * @param tonight ISO date
 */
export function lotsTurnOn(lots: readonly Lot[], tonight: string): string | undefined {
  const nights = lots.flatMap((lot) => [
    // It may be due the day before, on its day, and is expired behind it.
    ...(lot.useBy === null ? [] : [dayAfter(lot.useBy, -1), lot.useBy, dayAfter(lot.useBy, 1)]),
    ...(lot.document.madeWith ?? []).map((w) => dayAfter(w.useBy, 1)),
  ])
  return nights.filter((night) => night > tonight).sort()[0]
}

/** All that was measured on a lot, later readings in place of earlier ones, with the last one's moment and hand. */
export function measuredOf(lot: Lot): { measured: Measured; at: string; by: string } | undefined {
  const readings = lot.events.flatMap((e) =>
    e.event.kind === 'measured' ? [{ ...e, measured: e.event.measured }] : [],
  )
  const last = readings[readings.length - 1]
  if (!last) return undefined
  return { measured: Object.assign({}, ...readings.map((r) => r.measured)), at: last.at, by: last.by }
}
