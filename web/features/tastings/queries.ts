import { tastingKeySchema, tastingListingSchema, tastingSchema } from '@conch/contract'
import { formOf } from '@conch/core/schema'
import { queryOptions } from '@tanstack/react-query'
import { z } from 'zod'
import { api } from '../../app/api.ts'

export const TASTINGS_KEY = ['tastings'] as const
const listForm = formOf(z.array(tastingListingSchema))
const tastingForm = formOf(tastingSchema)

export const tastingsQuery = queryOptions({
  queryKey: [...TASTINGS_KEY, 'list'],
  queryFn: () => api.get('/api/tastings', listForm),
})
/** Asked again while others taste. */
const AGAIN_MS = 5_000
export const tastingQuery = (id: number) =>
  queryOptions({
    queryKey: [...TASTINGS_KEY, id],
    queryFn: () => api.get(`/api/tastings/${id}`, tastingForm),
    refetchInterval: ({ state }) => (state.data && !state.data.end ? AGAIN_MS : false),
  })
export const tastingKeyQuery = (id: number) =>
  queryOptions({
    queryKey: [...TASTINGS_KEY, id, 'key'],
    queryFn: () => api.get(`/api/tastings/${id}/key`, tastingKeySchema),
  })
