import type { SplitPrep } from '@conch/contract'
import { queryOptions } from '@tanstack/react-query'
import { api } from '../../app/api.ts'

export const splitPrepsQuery = queryOptions({
  queryKey: ['split-preps'],
  queryFn: () => api.get<SplitPrep[]>('/api/split-preps'),
})
