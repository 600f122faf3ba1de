import { readdirSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import type { HouseFileInput } from '@conch/contract'
import { dayOf } from '@conch/core/formula'

const DAY_MS = 86_400_000

/** A lot of the demo house: so many days old on whatever day it is loaded. */
interface AgedLot {
  madeDaysAgo: number
  events: object[]
}

function datedLot({ madeDaysAgo, events, ...lot }: AgedLot, today: Date) {
  const made = dayOf(new Date(today.getTime() - madeDaysAgo * DAY_MS))
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

function datedTrial({ on, daysAgo = 0, events = [], ...trial }: AgedTrial, today: Date) {
  const day = on ?? dayOf(new Date(today.getTime() - daysAgo * DAY_MS))
  return {
    ...trial,
    on: day,
    by: 'Lead',
    events: events.map((event) => ({ at: `${day}T18:00:00Z`, by: 'Manager', event })),
  }
}

/**
 * Puts the files of a folder together into one house file, each under its own name.
 * @param today lots are so many days old on this day
 */
export function readHouseFolder(folder: string, today = new Date()): HouseFileInput {
  const read = (path: string) => JSON.parse(readFileSync(path, 'utf8'))
  const all = (name: string) =>
    readdirSync(join(folder, name))
      .filter((f) => f.endsWith('.json'))
      .sort()
      .map((f) => read(join(folder, name, f)))
  const { editions, plan } = read(join(folder, 'editions.json'))
  const { trials, calibrations } = read(join(folder, 'trials.json'))
  return {
    ...read(join(folder, 'house.json')),
    wells: all('wells'),
    glasses: read(join(folder, 'glasses.json')),
    ingredients: read(join(folder, 'ingredients.json')),
    slots: read(join(folder, 'slots.json')),
    flights: read(join(folder, 'flights.json')),
    lots: read(join(folder, 'lots.json')).map((lot: AgedLot) => datedLot(lot, today)),
    trials: trials.map((trial: AgedTrial) => datedTrial(trial, today)),
    calibrations,
    drinks: all('drinks'),
    editions,
    plan,
  }
}
