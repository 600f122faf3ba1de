import { format, parseISO } from 'date-fns'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import {
  clockText,
  DEFAULT_CLOCK,
  dayAfter,
  daysBetween,
  dayText,
  isTimeZone,
  momentText,
  nightOf,
  nightText,
  shortDayText,
  startOfNight,
} from './index.ts'
import { clockSchema } from './schema.ts'

const at = (timeZone: string, dayTurnsAtHour = 6) => ({ timeZone, dayTurnsAtHour })
const night = (moment: string, zone: string, turn = 6) => nightOf(new Date(moment), at(zone, turn))

describe('a night', () => {
  it.each([
    // 01:30 on the wall is still the night before, east and west of Greenwich.
    ['2026-11-10T06:30:00Z', 'America/New_York', '2026-11-09'],
    ['2026-11-10T00:30:00Z', 'Europe/Berlin', '2026-11-09'],
    // An evening west of Greenwich is already tomorrow by Greenwich.
    ['2026-11-10T02:00:00Z', 'America/Los_Angeles', '2026-11-09'],
    ['2026-11-09T23:00:00Z', 'Pacific/Auckland', '2026-11-10'],
    // The clocks go forward, and back: the day still turns at six on the wall.
    ['2026-03-29T03:59:00Z', 'Europe/Berlin', '2026-03-28'],
    ['2026-03-29T04:00:00Z', 'Europe/Berlin', '2026-03-29'],
    ['2026-10-25T04:59:00Z', 'Europe/Berlin', '2026-10-24'],
    ['2026-10-25T05:00:00Z', 'Europe/Berlin', '2026-10-25'],
  ])('%s in %s is the night of %s', (moment, zone, day) => {
    expect(night(moment, zone)).toBe(day)
  })

  it('turns at the hour that the house sets', () => {
    expect(night('2026-11-10T04:30:00Z', 'UTC', 4)).toBe('2026-11-10')
    expect(night('2026-11-10T04:30:00Z', 'UTC', 5)).toBe('2026-11-09')
    expect(night('2026-11-10T00:00:00Z', 'UTC', 0)).toBe('2026-11-10')
    expect(nightOf(new Date('2026-11-10T05:59:59Z'), DEFAULT_CLOCK)).toBe('2026-11-09')
  })

  it('begins where it begins, holds every moment until the next, and no other: in any zone, all year', () => {
    const zones = ['UTC', 'Europe/Lisbon', 'America/St_Johns', 'Asia/Kathmandu', 'Pacific/Chatham', 'America/Santiago']
    fc.assert(
      fc.property(
        fc.constantFrom(...zones),
        fc.integer({ min: 1, max: 12 }),
        fc.integer({ min: 0, max: 4000 }),
        fc.double({ min: 0, max: 1, maxExcluded: true, noNaN: true }),
        (zone, turn, days, part) => {
          const day = dayAfter('2020-01-01', days)
          const [start, end] = [day, dayAfter(day, 1)].map((d) => startOfNight(d, at(zone, turn)).getTime())
          if (start === undefined || end === undefined) throw new Error('no start')
          const hours = (end - start) / 3_600_000
          expect(hours).toBeGreaterThanOrEqual(23)
          expect(hours).toBeLessThanOrEqual(25)
          expect(nightOf(new Date(start + Math.floor(part * (end - start))), at(zone, turn))).toBe(day)
          expect(nightOf(new Date(start - 1), at(zone, turn))).toBe(dayAfter(day, -1))
        },
      ),
      { numRuns: 500, seed: 6 },
    )
  })

  it('is counted in days across months, leap days and changes of the clock', () => {
    expect(dayAfter('2028-02-28', 2)).toBe('2028-03-01')
    expect(dayAfter('2026-01-01', -1)).toBe('2025-12-31')
    expect(daysBetween('2026-03-28', '2026-03-30')).toBe(2)
    expect(daysBetween('2026-10-26', '2026-10-24')).toBe(-2)
  })
})

describe('in words', () => {
  it('a day and a moment are written one way', () => {
    expect(dayText('2026-11-09')).toBe('9 Nov 2026')
    expect(shortDayText('2026-11-09', '2026-12-01')).toBe('9 Nov')
    expect(shortDayText('2025-11-09', '2026-12-01')).toBe('9 Nov 2025')
    const newYork = at('America/New_York')
    expect(nightText('2026-11-10T06:30:00Z', newYork)).toBe('9 Nov 2026')
    expect(momentText('2026-11-10T06:30:00Z', newYork)).toBe('10 Nov 2026, 01:30')
    expect(clockText('2026-11-10T05:05:00Z', newYork)).toBe('00:05')
  })

  it('every day is written as a formatter of dates writes it, and what is no day is refused', () => {
    for (let day = '1999-12-30'; day < '2032-03-02'; day = dayAfter(day, 1))
      expect(dayText(day)).toBe(format(parseISO(day), 'd MMM yyyy'))
    expect(() => dayText('2026-02-30')).toThrow(RangeError)
    expect(() => shortDayText('2026-13-01', '2026-12-01')).toThrow(RangeError)
  })
})

describe('a clock', () => {
  it('hangs in a zone that there is', () => {
    expect(isTimeZone('Europe/Lisbon')).toBe(true)
    expect(clockSchema.safeParse({ timeZone: 'Marrow/Quay', dayTurnsAtHour: 6 }).error?.issues[0]?.message).toBe(
      'is no time zone; name one like Europe/Lisbon or America/New_York',
    )
    expect(clockSchema.safeParse({ timeZone: 'UTC', dayTurnsAtHour: 13 }).success).toBe(false)
  })
})
