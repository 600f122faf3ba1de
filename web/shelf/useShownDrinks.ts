import type { DrinkDocument } from '@conch/core/drink'
import { useQueries, useQuery } from '@tanstack/react-query'
import { drinkQuery, drinksQuery } from '../app/queries.ts'

export interface ShownDrink {
  slug: string
  name: string
  /** The version that it is, or undefined for a draft that never was one. */
  version: number | undefined
  document: DrinkDocument
}

/** Every drink as it stands: what is poured today, else what is planned, else the newest version or the draft. */
export function useShownDrinks(): ShownDrink[] {
  const listings = useQuery(drinksQuery).data ?? []
  return useQueries({
    queries: listings.map((d) => drinkQuery(d.slug)),
    combine: (drinks) =>
      drinks.flatMap((q) => {
        if (!q.data) return []
        const { slug, name, poured, planned, versions, draft } = q.data
        const version = poured?.version ?? planned ?? versions.at(-1)?.number
        const document = versions.find((v) => v.number === version)?.document ?? draft?.document
        return document ? [{ slug, name, version, document }] : []
      }),
  })
}
