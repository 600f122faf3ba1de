import { editionSchema, editionSummarySchema, publishEditionSchema } from '@conch/contract'
import { z } from 'zod'
import { SHELF } from '../../http/kept.ts'
import { route, writeRoute } from '../../http/route.ts'
import { loadEditionSummaries } from '../../stores/editions.ts'
import { publishEdition, showEdition } from './editionUseCases.ts'
import { computeAhead } from './lockAhead.ts'

const numberParams = z.object({ number: z.coerce.number().int().min(1).max(2_147_483_647) })

export const editionRoutes = [
  route({
    method: 'get',
    path: '/api/editions',
    summary: 'Every edition, newest first',
    act: 'read',
    response: z.array(editionSummarySchema),
    keep: { reads: ['edition'] },
    handle: ({ services }) => loadEditionSummaries(services.database.db),
  }),
  writeRoute({
    method: 'post',
    path: '/api/editions',
    summary: 'Publish the planned menu as a new edition, for ever',
    act: 'publishEdition',
    doing: 'publish an edition',
    body: publishEditionSchema,
    response: editionSummarySchema,
    status: 201,
    prepare: ({ actor, services }) => computeAhead(actor, services),
    handle: ({ body, prepared, actor, write }) => publishEdition(body, prepared, actor, write),
  }),
  route({
    method: 'get',
    path: '/api/menu/next/lock',
    summary: 'Compute ahead what publishing the plan would freeze, and say whether it can be published',
    act: 'publishEdition',
    doing: 'publish an edition',
    response: z.object({ drinks: z.number().int() }),
    handle: async ({ actor, services }) => {
      const { lock } = await computeAhead(actor, services)
      return { drinks: lock.listing.length }
    },
  }),
  route({
    method: 'get',
    path: '/api/editions/{number}',
    summary: 'An edition with its whole lock',
    act: 'read',
    params: numberParams,
    response: editionSchema,
    keep: { reads: ['edition', ...SHELF] },
    handle: ({ params, actor, services }) => showEdition(services.database.db, params.number, actor),
  }),
]
