import { readdirSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import type { HouseFileInput } from '@conch/contract'
import { clockOf, dayAfter, nightOf } from '@conch/core/calendar'

/** A lot of the demo house: so many days old on whatever day it is loaded. */
interface AgedLot {
  madeDaysAgo: number
  events: object[]
}

function datedLot({ madeDaysAgo, events, ...lot }: AgedLot, today: string) {
  const made = dayAfter(today, -madeDaysAgo)
  return {
    ...lot,
    madeOn: made,
    madeBy: 'Lead',
    events: events.map((event, i) => ({ at: `${made}T${13 + i}:10:00Z`, by: 'Lead', event })),
  }
}

/** A trial of the demo house on its day, or so many days old on whatever day it is loaded. */
interface AgedTrial {
  on?: string
  daysAgo?: number
  events?: object[]
}

function datedTrial({ on, daysAgo = 0, events = [], ...trial }: AgedTrial, today: string) {
  const day = on ?? dayAfter(today, -daysAgo)
  return {
    ...trial,
    on: day,
    by: 'Lead',
    events: events.map((event) => ({ at: `${day}T18:00:00Z`, by: 'Manager', event })),
  }
}

/**
 * Puts the files of a folder together into one house file, each under its own name.
 * @param now lots are so many days old on the house's night of this moment
 */
export function readHouseFolder(folder: string, now = new Date()): HouseFileInput {
  const read = (path: string) => JSON.parse(readFileSync(path, 'utf8'))
  const all = (name: string) =>
    readdirSync(join(folder, name))
      .filter((f) => f.endsWith('.json'))
      .sort()
      .map((f) => read(join(folder, name, f)))
  const { editions, plan } = read(join(folder, 'editions.json'))
  const { trials, calibrations } = read(join(folder, 'trials.json'))
  const house = read(join(folder, 'house.json'))
  const today = nightOf(now, clockOf(house.settings))
  return {
    ...house,
    people: read(join(folder, 'people.json')),
    wells: all('wells'),
    glasses: read(join(folder, 'glasses.json')),
    ingredients: read(join(folder, 'ingredients.json')),
    slots: read(join(folder, 'slots.json')),
    tastings: read(join(folder, 'tastings.json')),
    flights: read(join(folder, 'flights.json')),
    lots: read(join(folder, 'lots.json')).map((lot: AgedLot) => datedLot(lot, today)),
    trials: trials.map((trial: AgedTrial) => datedTrial(trial, today)),
    calibrations,
    drinks: all('drinks'),
    editions,
    plan,
  }
}
