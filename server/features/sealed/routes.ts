import { othersKnowSchema, splitPrepRequestSchema, splitPrepSchema } from '@conch/contract'
import { slugSchema } from '@conch/core/house/schema'
import { z } from 'zod'
import { SHELF } from '../../http/kept.ts'
import { route, writeRoute } from '../../http/route.ts'
import { showOthersKnow } from './showOthersKnow.ts'
import { dealSplitPrep, listSplitPreps } from './splitPrepUseCases.ts'

export const sealedRoutes = [
  route({
    method: 'get',
    path: '/api/ingredients/{slug}/others-know',
    summary: 'What others know of a sealed mix, and how many fillings fit that',
    act: 'openSealed',
    doing: 'read what is sealed',
    params: z.object({ slug: slugSchema }),
    response: othersKnowSchema,
    keep: { reads: [...SHELF, 'settings', 'lot'] },
    handle: ({ params, actor, services }) => showOthersKnow(params.slug, actor, services),
  }),
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
