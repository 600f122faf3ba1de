import type { ShownDrink } from '@conch/contract'
import type { DrinkDocument } from '@conch/core/drink'
import { useQuery } from '@tanstack/react-query'
import { useMemo } from 'react'
import { useHouse } from '../app/house.tsx'
import { shownDrinksQuery, versionsQuery } from '../app/queries.ts'
import { useShelfFor } from '../app/shelf.ts'

/**
 * Drinks as they stand (what is poured today, else planned, else the newest version) on a bottle or mix, at any depth, or on
 * a slot; undefined until it is known.
 */
export function useDrinksOn(of: { on: readonly string[] } | { slot: string }): ShownDrink[] | undefined {
  const { well } = useHouse()
  const asked = 'on' in of ? { on: of.on.join(',') } : of
  return useQuery(shownDrinksQuery(well.slug, asked)).data?.drinks
}

export interface MenuDrink {
  slug: string
  name: string
  version: number
  document: DrinkDocument
}

/** What is poured or planned, as it is written; undefined until it is known. */
export function useMenuDrinks(): MenuDrink[] | undefined {
  const { well } = useHouse()
  const shown = useQuery(shownDrinksQuery(well.slug, { menu: 'yes' })).data?.drinks
  const keys = useMemo(() => shown?.map((s) => `${s.drink}@${s.version}`) ?? [], [shown])
  const versions = useQuery({ ...versionsQuery(keys), enabled: keys.length > 0 }).data
  const shelf = useShelfFor(versions?.map((v) => v.document) ?? [])
  return useMemo((): MenuDrink[] | undefined => {
    if (!shown || (shown.length > 0 && !(versions && shelf.isReady))) return undefined
    return (versions ?? []).flatMap(({ drink, number, document }) => {
      const name = shown.find((s) => s.drink === drink)?.name
      return name === undefined ? [] : [{ slug: drink, name, version: number, document }]
    })
  }, [shown, versions, shelf.isReady])
}
