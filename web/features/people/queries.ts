import { deviceSchema, personSignInSchema } from '@conch/contract'
import { queryOptions } from '@tanstack/react-query'
import { z } from 'zod'
import { api } from '../../app/api.ts'

const signIns = z.array(personSignInSchema)
const devices = z.array(deviceSchema)

export const signInsQuery = queryOptions({
  queryKey: ['signIns'],
  queryFn: () => api.get('/api/sign-ins', signIns),
})
export const devicesQuery = queryOptions({
  queryKey: ['devices'],
  queryFn: () => api.get('/api/devices', devices),
})
