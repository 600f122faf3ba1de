import { addLotEventSchema, makeLotSchema } from '@conch/contract'
import { lotSchema } from '@conch/core/formula/lotSchema'
import { z } from 'zod'
import { route } from '../../http/route.ts'
import { addLotEvent, getLot, listLots, makeLot } from './lotUseCases.ts'

const idParams = z.object({ id: z.coerce.number().int().min(1).max(2_147_483_647) })

export const lotRoutes = [
  route({
    method: 'get',
    path: '/api/lots',
    summary: 'The newest lots, gone ones too',
    act: 'read',
    response: z.array(lotSchema),
    handle: ({ services }) => listLots(services.database.db),
  }),
  route({
    method: 'get',
    path: '/api/lots/{id}',
    summary: 'One lot with everything that happened to it',
    act: 'read',
    params: idParams,
    response: lotSchema,
    handle: ({ params, services }) => getLot(services.database.db, params.id),
  }),
  route({
    method: 'post',
    path: '/api/lots',
    summary: 'Write down a lot that was made or pressed',
    act: 'makeLot',
    doing: 'make a lot',
    body: makeLotSchema,
    response: lotSchema,
    status: 201,
    handle: ({ body, actor, services }) => makeLot(body, actor, services),
  }),
  route({
    method: 'post',
    path: '/api/lots/{id}/events',
    summary: 'Measured, labelled, used up or discarded',
    act: 'makeLot',
    doing: 'change a lot',
    params: idParams,
    body: addLotEventSchema,
    response: lotSchema,
    status: 201,
    handle: ({ params, body, actor, services }) => addLotEvent(params.id, body, actor, services),
  }),
]
