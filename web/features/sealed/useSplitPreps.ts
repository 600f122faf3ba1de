import { splitPrepSchema } from '@conch/contract'
import { queryOptions } from '@tanstack/react-query'
import { z } from 'zod'
import { api } from '../../app/api.ts'

const preps = z.array(splitPrepSchema)

export const splitPrepsQuery = queryOptions({
  queryKey: ['split-preps'],
  queryFn: () => api.get('/api/split-preps', preps),
})
