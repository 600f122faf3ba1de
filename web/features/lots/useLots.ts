import { type AddLotEvent, lotPageSchema, type MakeLot } from '@conch/contract'
import type { Lot } from '@conch/core/lots'
import { lotSchema } from '@conch/core/lots/lotSchema'
import { formOf } from '@conch/core/schema'
import { queryOptions, useQueryClient } from '@tanstack/react-query'
import { tap } from '../../alone/tap.ts'
import { api } from '../../app/api.ts'
import { addressOf, KEPT, refreshHouse } from '../../app/queries.ts'

const lotForm = formOf(lotSchema)
const pageForm = formOf(lotPageSchema)

export const lotQuery = (id: number) =>
  queryOptions({ queryKey: ['lots', id], queryFn: () => api.get(`/api/lots/${id}`, lotForm) })
const ROWS_AT_ONCE = 50
export interface LotsAsked {
  words?: string | undefined
  of?: string | undefined
  sort?: string | undefined
  down?: 'yes' | undefined
  open?: 'yes' | undefined
}
/** A list of lots. */
export const lotList = (asked: LotsAsked) => ({
  key: [KEPT, 'lots', addressOf(asked)],
  ask: (from: number, limit: number) => api.get(`/api/lots?${addressOf({ ...asked, from, limit })}`, pageForm),
  rowsAtOnce: ROWS_AT_ONCE,
})
/** The newest lots of one thing. */
export const lotsOfQuery = (of: string, limit: number) =>
  queryOptions({
    queryKey: [KEPT, 'lots of', of, limit],
    queryFn: async () => (await api.get(`/api/lots?${addressOf({ of, limit })}`, pageForm)).rows,
  })

/** Making a lot and adding to it; every page hears of it. @throws ApiError */
export function useLotChanges() {
  const queryClient = useQueryClient()
  const heard = async (lot: Lot) => {
    queryClient.setQueryData(lotQuery(lot.id).queryKey, lot)
    await refreshHouse(queryClient)
    return lot
  }
  return {
    make: (request: Partial<MakeLot> & { ingredient: string }) => api.post('/api/lots', lotForm, request).then(heard),
    /** @returns whether it is only kept on this device so far, and at which place */
    add: async (id: number, event: AddLotEvent['event'], words: string): Promise<{ kept?: number }> => {
      const said = await tap(
        { kind: 'lot', path: `/api/lots/${id}/events`, body: { event }, name: `lot ${id}`, words },
        lotForm,
      )
      if ('kept' in said) return said
      await heard(said.done)
      return {}
    },
  }
}
