import { usualAmountsSchema } from '@conch/contract'
import { shippedRange, type Usual } from '@conch/core/reading'
import { keepPreviousData, queryOptions, useQuery } from '@tanstack/react-query'
import { useCallback } from 'react'
import { api } from '../app/api.ts'

const STALE_MS = 5 * 60_000

const usualQuery = (slugs: string) =>
  queryOptions({
    queryKey: ['usual-amounts', slugs],
    queryFn: () => api.get(`/api/usual-amounts?of=${slugs}`, usualAmountsSchema),
    staleTime: STALE_MS,
    placeholderData: keepPreviousData,
    enabled: slugs !== '',
  })

/** What is usually poured here of these; until the house has answered, what is shipped. */
export function useUsual(slugs: readonly (string | undefined)[]): Usual {
  const known = slugs.flatMap((slug) => slug ?? [])
  const { data } = useQuery(usualQuery([...new Set(known)].sort().join(',')))
  return useCallback((ingredient) => data?.[ingredient.slug] ?? shippedRange(ingredient), [data])
}
