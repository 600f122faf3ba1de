import { usualAmountsSchema } from '@conch/contract'
import { shippedRange, type Usual } from '@conch/core/reading'
import { queryOptions, useQuery } from '@tanstack/react-query'
import { useCallback } from 'react'
import { api } from '../app/api.ts'

const STALE_MS = 5 * 60_000

const usualQuery = queryOptions({
  queryKey: ['usual-amounts'],
  queryFn: () => api.get('/api/usual-amounts', usualAmountsSchema),
  staleTime: STALE_MS,
})

/** What is usually poured here; until the house has answered, what is shipped. */
export function useUsual(): Usual {
  const { data } = useQuery(usualQuery)
  return useCallback((ingredient) => data?.[ingredient.slug] ?? shippedRange(ingredient), [data])
}
