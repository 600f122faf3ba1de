import {
  drinkListingSchema,
  drinkSchema,
  editionSchema,
  editionSummarySchema,
  houseSchema,
  menuSchema,
  modelMovedSchema,
  personSchema,
  readySchema,
} from '@conch/contract'
import { formOf } from '@conch/core/schema'
import { QueryClient, queryOptions } from '@tanstack/react-query'
import { z } from 'zod'
import { ApiError, api } from './api.ts'

export const queryClient = new QueryClient({
  defaultOptions: {
    queries: {
      staleTime: 5_000,
      retry: (count, error) => error instanceof ApiError && error.isAway && count < 2,
    },
  },
})

const listings = z.array(drinkListingSchema)
const summaries = z.array(editionSummarySchema)
const people = z.array(personSchema)
// What the house keeps was right when it was written: its form is looked at, not today's limits.
const houseForm = formOf(houseSchema)
const drinkForm = formOf(drinkSchema)
const menuForm = formOf(menuSchema)
const editionForm = formOf(editionSchema)

export const readyQuery = queryOptions({ queryKey: ['ready'], queryFn: () => api.get('/api/ready', readySchema) })
export const peopleQuery = queryOptions({ queryKey: ['people'], queryFn: () => api.get('/api/people', people) })
export const houseQuery = queryOptions({ queryKey: ['house'], queryFn: () => api.get('/api/house', houseForm) })
export const drinksQuery = queryOptions({ queryKey: ['drinks'], queryFn: () => api.get('/api/drinks', listings) })
export const drinkQuery = (slug: string) =>
  queryOptions({ queryKey: ['drinks', slug], queryFn: () => api.get(`/api/drinks/${slug}`, drinkForm) })
export const menuQuery = queryOptions({ queryKey: ['menu'], queryFn: () => api.get('/api/menu', menuForm) })
export const editionsQuery = queryOptions({
  queryKey: ['editions'],
  queryFn: () => api.get('/api/editions', summaries),
})
export const modelQuery = queryOptions({
  queryKey: ['model'],
  queryFn: () => api.get('/api/model', modelMovedSchema),
  staleTime: 60_000,
})
/** An edition never changes: fetched once. */
export const editionQuery = (number: number) =>
  queryOptions({
    queryKey: ['editions', number],
    queryFn: () => api.get(`/api/editions/${number}`, editionForm),
    staleTime: Number.POSITIVE_INFINITY,
  })
