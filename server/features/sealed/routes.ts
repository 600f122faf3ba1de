import { splitPrepRequestSchema, splitPrepSchema } from '@conch/contract'
import { z } from 'zod'
import { route, writeRoute } from '../../http/route.ts'
import { dealSplitPrep, listSplitPreps } from './splitPrepUseCases.ts'

export const sealedRoutes = [
  route({
    method: 'get',
    path: '/api/split-preps',
    summary: 'Batches that two people weigh, each with the sheets that one may see',
    act: 'prepare',
    response: z.array(splitPrepSchema),
    handle: ({ actor, services }) => listSplitPreps(services.database.db, actor, services.now()),
  }),
  writeRoute({
    method: 'post',
    path: '/api/split-preps',
    summary: 'Deal a batch to two people',
    act: 'openSealed',
    doing: 'deal a sealed batch',
    body: splitPrepRequestSchema,
    response: splitPrepSchema,
    status: 201,
    handle: ({ body, actor, write }) => dealSplitPrep(body, actor, write),
  }),
]
