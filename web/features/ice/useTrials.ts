import { type AddTrial, type CalibrateRequest, trialsSchema } from '@conch/contract'
import type { TrialEvent } from '@conch/core/calibration'
import { calibrationSchema, trialSchema } from '@conch/core/calibration/trialSchema'
import { formOf } from '@conch/core/schema'
import { queryOptions, useQueryClient } from '@tanstack/react-query'
import { api } from '../../app/api.ts'
import { refreshHouse } from '../../app/queries.ts'

const trialsForm = formOf(trialsSchema)
const trialForm = formOf(trialSchema)
const calibrationForm = formOf(calibrationSchema)

export const trialsQuery = queryOptions({ queryKey: ['trials'], queryFn: () => api.get('/api/trials', trialsForm) })

/** Writing trials down, judging them, and fitting a station to them; every page hears of it. @throws ApiError */
export function useTrialChanges() {
  const queryClient = useQueryClient()
  const heard = async <T>(answer: T) => {
    await queryClient.invalidateQueries({ queryKey: trialsQuery.queryKey })
    await refreshHouse(queryClient)
    return answer
  }
  return {
    add: (request: AddTrial) => api.post('/api/trials', trialForm, request).then(heard),
    judge: (id: number, event: TrialEvent) => api.post(`/api/trials/${id}/events`, trialForm, { event }).then(heard),
    calibrate: (request: CalibrateRequest) => api.post('/api/calibrations', calibrationForm, request).then(heard),
  }
}
