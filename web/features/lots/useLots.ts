import type { AddLotEvent, MakeLot } from '@conch/contract'
import type { Lot } from '@conch/core/formula'
import { queryOptions, useQueryClient } from '@tanstack/react-query'
import { api } from '../../app/api.ts'
import { houseQuery } from '../../app/queries.ts'

export const lotQuery = (id: number) =>
  queryOptions({ queryKey: ['lots', id], queryFn: () => api.get<Lot>(`/api/lots/${id}`) })
export const lotsQuery = queryOptions({ queryKey: ['lots'], queryFn: () => api.get<Lot[]>('/api/lots') })

/** Making a lot and adding to it; every page hears of it. @throws ApiError */
export function useLotChanges() {
  const queryClient = useQueryClient()
  const heard = async (lot: Lot) => {
    queryClient.setQueryData(lotQuery(lot.id).queryKey, lot)
    await queryClient.invalidateQueries({ queryKey: lotsQuery.queryKey, exact: true })
    await queryClient.invalidateQueries({ queryKey: houseQuery.queryKey })
    return lot
  }
  return {
    make: (request: Partial<MakeLot> & { ingredient: string }) => api.post<Lot>('/api/lots', request).then(heard),
    add: (id: number, event: AddLotEvent['event']) => api.post<Lot>(`/api/lots/${id}/events`, { event }).then(heard),
  }
}
