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
  return {
    ...read(join(folder, 'house.json')),
    wells: all('wells'),
    glasses: read(join(folder, 'glasses.json')),
    ingredients: read(join(folder, 'ingredients.json')),
    slots: read(join(folder, 'slots.json')),
    flights: read(join(folder, 'flights.json')),
    lots: read(join(folder, 'lots.json')).map((lot: AgedLot) => datedLot(lot, today)),
    drinks: all('drinks'),
    editions,
    plan,
  }
}
