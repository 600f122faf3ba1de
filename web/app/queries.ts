import type { Drink, DrinkListing, Edition, EditionSummary, Health, House, Menu } from '@conch/contract'
import { QueryClient, queryOptions } from '@tanstack/react-query'
import { ApiError, api } from './api.ts'

export const queryClient = new QueryClient({
  defaultOptions: {
    queries: {
      staleTime: 5_000,
      retry: (count, error) => error instanceof ApiError && error.isAway && count < 2,
    },
  },
})

export const healthQuery = queryOptions({ queryKey: ['health'], queryFn: () => api.get<Health>('/api/health') })
export const houseQuery = queryOptions({ queryKey: ['house'], queryFn: () => api.get<House>('/api/house') })
export const drinksQuery = queryOptions({ queryKey: ['drinks'], queryFn: () => api.get<DrinkListing[]>('/api/drinks') })
export const drinkQuery = (slug: string) =>
  queryOptions({ queryKey: ['drinks', slug], queryFn: () => api.get<Drink>(`/api/drinks/${slug}`) })
export const menuQuery = queryOptions({ queryKey: ['menu'], queryFn: () => api.get<Menu>('/api/menu') })
export const editionsQuery = queryOptions({
  queryKey: ['editions'],
  queryFn: () => api.get<EditionSummary[]>('/api/editions'),
})
/** An edition never changes: fetched once. */
export const editionQuery = (number: number) =>
  queryOptions({
    queryKey: ['editions', number],
    queryFn: () => api.get<Edition>(`/api/editions/${number}`),
    staleTime: Number.POSITIVE_INFINITY,
  })
