/** By which versions drinks are shown: what is poured, what is planned, and the newest of the house's own of each. */

import type { HeldHouse } from '../held/index.ts'
import { keyOf, type VersionKey } from './glassStore.ts'

export class Shown {
  poured: ReadonlyMap<string, number> = new Map()
  planned: ReadonlyMap<string, number> = new Map()
  /** The newest version of every drink that has one. */
  private readonly latest = new Map<string, number>()
  /** Undefined: to be put together anew. */
  private byDrink: ReadonlyMap<string, number> | undefined

  /** All of it, as it is held. */
  take(held: HeldHouse): void {
    this.poured = held.listed.poured
    this.planned = held.listed.planned
    this.latest.clear()
    this.takeNewest(held, held.drinks.keys())
  }

  /** The newest version of these drinks, as it is held. */
  takeNewest(held: HeldHouse, slugs: Iterable<string>): void {
    for (const slug of slugs) {
      const number = held.drinks.get(slug)?.ownVersion ?? null
      if (number === null) this.latest.delete(slug)
      else this.latest.set(slug, number)
    }
    this.byDrink = undefined
  }

  /** The version by which a drink is shown: what is poured, else what is planned, else the newest. */
  versions(): ReadonlyMap<string, number> {
    this.byDrink ??= new Map([...this.latest, ...this.planned, ...this.poured])
    return this.byDrink
  }

  isOnMenu({ drink, version }: VersionKey): boolean {
    return this.poured.get(drink) === version || this.planned.get(drink) === version
  }

  /** Every version that is shown somewhere, by its key. @param only of these drinks */
  wanted(only?: ReadonlySet<string>): Map<string, VersionKey> {
    const found = new Map<string, VersionKey>()
    for (const listing of [this.poured, this.planned, this.latest])
      for (const drink of only ?? listing.keys()) {
        const version = listing.get(drink)
        if (version !== undefined) found.set(keyOf({ drink, version }), { drink, version })
      }
    return found
  }
}
