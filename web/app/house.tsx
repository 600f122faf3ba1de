import type { House } from '@conch/contract'
import { clockOf, type HouseClock } from '@conch/core/calendar'
import { resolveHouse } from '@conch/core/formula'
import type { HouseBook, Well } from '@conch/core/house'
import { useQuery } from '@tanstack/react-query'
import { createContext, type ReactNode, useContext, useMemo, useState } from 'react'
import { tonightQuery } from './queries.ts'
import { type KnownShelf, useKnownShelf } from './shelf.ts'
import { HALF_HOUR_MS, useHalfHour } from './useHalfHour.ts'
import { useTonight } from './useTonight.ts'
import { setStoredWell, storedWell } from './well.ts'

/** The house as far as this device knows it: what is on every page, and the parts of the shelf that were asked for. */
export type KnownHouse = House &
  Omit<KnownShelf, 'revisions'> & { revisions: House['revisions'] & { ingredients: Record<string, number> } }

interface HouseContext {
  /** As it is kept: what is typed. */
  house: KnownHouse
  /** As drinks see it today: mixes and lots resolved. */
  book: HouseBook
  clock: HouseClock
  /** The night it is in the house, wherever this device stands; ISO date. */
  today: string
  well: Well
  setWell: (slug: string) => void
}

const Context = createContext<HouseContext | undefined>(undefined)

/** The house, and the well at which one stands, for everything inside. */
export function HouseProvider({ house: base, children }: { house: House; children: ReactNode }) {
  const shelf = useKnownShelf()
  const house = useMemo(
    (): KnownHouse => ({ ...base, ...shelf, revisions: { ...base.revisions, ingredients: shelf.revisions } }),
    [base, shelf],
  )
  const [slug, setSlug] = useState(storedWell)
  const clock = clockOf(house.settings)
  const today = useTonight(clock)
  const halfHour = useHalfHour()
  const outAt = useQuery(tonightQuery).data?.outAt
  const book = useMemo(() => {
    const { settings, wells, ingredients, glasses, lots, slots, tasted, calibrations } = house
    const at = new Date(halfHour * HALF_HOUR_MS)
    const known = { settings, wells, ingredients, glasses, lots, slots, tasted, calibrations }
    return { ...resolveHouse(known, today, at), ...(outAt ? { outAt } : {}) }
  }, [house, today, halfHour, outAt])
  const value = useMemo(() => {
    const { wells } = house
    const well = wells.find((w) => w.slug === slug) ?? wells[0]
    if (!well) throw new Error('bug: a house without a well')
    const setWell = (next: string) => {
      setStoredWell(next)
      setSlug(next)
    }
    return { house, book, clock, today, well, setWell }
  }, [house, book, clock, today, slug])
  return <Context.Provider value={value}>{children}</Context.Provider>
}

export function useHouse(): HouseContext {
  const value = useContext(Context)
  if (!value) throw new Error('bug: outside of HouseProvider')
  return value
}
