import type { DrinkAtWell } from '@conch/contract'
import type { DrinkDocument } from '@conch/core/drink'
import { useQueries, useQuery } from '@tanstack/react-query'
import { useMemo } from 'react'
import { useHouse } from '../../app/house.tsx'
import { drinkQuery, pouredMenuQuery } from '../../app/queries.ts'
import { standsWords, useOuts } from '../../outs/index.ts'

/** A drink of the menu as it is made here tonight. */
export interface RailDrink {
  drink: string
  version: number
  name: string
  chapter: string
  /** As it is made; undefined: it is not known on this device. */
  document: DrinkDocument | undefined
  state: DrinkAtWell['state']
  /** Why it is not simply made. */
  words: string | undefined
}

/** The poured edition at this well, with what was chosen for tonight. */
export function useRailMenu() {
  const { well } = useHouse()
  const poured = useQuery(pouredMenuQuery(well.slug))
  const { tonight } = useOuts()
  const lines = useMemo(
    () => (poured.data?.chapters ?? []).flatMap((c) => c.drinks.map((d) => ({ ...d, chapter: c.name }))),
    [poured.data],
  )
  const known = useQueries({ queries: lines.map((l) => drinkQuery(l.drink)) })
  const isReady = poured.data !== undefined && known.every((k) => !k.isPending)
  // The answers are other objects each time; what they hold is looked at by when they came.
  const at = known.map((k) => k.dataUpdatedAt).join()
  // biome-ignore lint/correctness/useExhaustiveDependencies: `at` stands for what is known
  const drinks = useMemo(
    () =>
      lines.map(({ drink, version, name, chapter }, i): RailDrink => {
        const stands = tonight?.drinks.find((d) => d.drink === drink)?.at[well.slug]
        const choice = tonight?.choices.find((c) => c.id === stands?.choice)
        const written = known[i]?.data?.versions.find((v) => v.number === version)?.document
        const document = stands?.state === 'instead' ? (choice?.document ?? written) : written
        return {
          drink,
          version,
          name,
          chapter,
          document,
          state: stands?.state ?? 'made',
          words: standsWords(stands, choice),
        }
      }),
    [lines, tonight, well.slug, at],
  )
  return { drinks, isReady, error: poured.error, refetch: poured.refetch }
}
