import type { AddTrial, CalibrateRequest, Trials } from '@conch/contract'
import type { StoredCalibration, Trial, TrialEvent } from '@conch/core/cold'
import { queryOptions, useQueryClient } from '@tanstack/react-query'
import { api } from '../../app/api.ts'
import { houseQuery } from '../../app/queries.ts'

export const trialsQuery = queryOptions({ queryKey: ['trials'], queryFn: () => api.get<Trials>('/api/trials') })

/** Writing trials down, judging them, and fitting a station to them; every page hears of it. @throws ApiError */
export function useTrialChanges() {
  const queryClient = useQueryClient()
  const heard = async <T>(answer: T) => {
    await queryClient.invalidateQueries({ queryKey: trialsQuery.queryKey })
    await queryClient.invalidateQueries({ queryKey: houseQuery.queryKey })
    return answer
  }
  return {
    add: (request: AddTrial) => api.post<Trial>('/api/trials', request).then(heard),
    judge: (id: number, event: TrialEvent) => api.post<Trial>(`/api/trials/${id}/events`, { event }).then(heard),
    calibrate: (request: CalibrateRequest) => api.post<StoredCalibration>('/api/calibrations', request).then(heard),
  }
}
