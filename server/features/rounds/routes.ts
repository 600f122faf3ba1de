import { endRoundSchema, roundsSchema, saidRoundSchema, sayRoundSchema } from '@conch/contract'
import { z } from 'zod'
import { route, writeRoute } from '../../http/route.ts'
import { endRound, getRounds, sayRound } from './roundUseCases.ts'

const idParams = z.object({ id: z.coerce.number().int().min(1).max(2_147_483_647) })

export const roundRoutes = [
  route({
    method: 'get',
    path: '/api/rounds',
    summary: 'Rounds that are put aside half made, and those that were finished this night',
    act: 'read',
    response: roundsSchema,
    keep: { reads: ['round', 'settings', 'house'], until: 'night' },
    handle: ({ services }) => getRounds(services.database.db, services.now()),
  }),
  writeRoute({
    method: 'post',
    path: '/api/rounds',
    summary: 'A round is finished, or put aside half made',
    mayBeLate: true,
    act: 'makeRound',
    doing: 'make a round',
    body: sayRoundSchema,
    response: saidRoundSchema,
    status: 201,
    handle: ({ body, actor, write }) => sayRound(body, actor, write),
  }),
  writeRoute({
    method: 'post',
    path: '/api/rounds/{id}/end',
    summary: 'A round that was put aside is taken up again, or thrown away',
    act: 'makeRound',
    doing: 'take up a round',
    params: idParams,
    body: endRoundSchema,
    response: saidRoundSchema,
    handle: ({ params, body, actor, write }) => endRound(params.id, body, actor, write),
  }),
]
