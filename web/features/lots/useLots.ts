import type { AddLotEvent, MakeLot } from '@conch/contract'
import type { Lot } from '@conch/core/formula'
import { lotSchema } from '@conch/core/formula/lotSchema'
import { formOf } from '@conch/core/schema'
import { queryOptions, useQueryClient } from '@tanstack/react-query'
import { z } from 'zod'
import { api } from '../../app/api.ts'
import { refreshHouse } from '../../app/queries.ts'

const lotForm = formOf(lotSchema)
const lotForms = z.array(lotForm)

export const lotQuery = (id: number) =>
  queryOptions({ queryKey: ['lots', id], queryFn: () => api.get(`/api/lots/${id}`, lotForm) })
export const lotsQuery = queryOptions({ queryKey: ['lots'], queryFn: () => api.get('/api/lots', lotForms) })

/** Making a lot and adding to it; every page hears of it. @throws ApiError */
export function useLotChanges() {
  const queryClient = useQueryClient()
  const heard = async (lot: Lot) => {
    queryClient.setQueryData(lotQuery(lot.id).queryKey, lot)
    await queryClient.invalidateQueries({ queryKey: lotsQuery.queryKey, exact: true })
    await refreshHouse(queryClient)
    return lot
  }
  return {
    make: (request: Partial<MakeLot> & { ingredient: string }) => api.post('/api/lots', lotForm, request).then(heard),
    add: (id: number, event: AddLotEvent['event']) =>
      api.post(`/api/lots/${id}/events`, lotForm, { event }).then(heard),
  }
}
