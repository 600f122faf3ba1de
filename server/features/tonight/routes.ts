import {
  chooseTonightSchema,
  endOutSchema,
  markablesSchema,
  outMarkSchema,
  pourableQuery,
  pourableSchema,
  tonightChoiceSchema,
  tonightSchema,
} from '@conch/contract'
import { slugSchema } from '@conch/core/house/schema'
import { outDocumentSchema } from '@conch/core/schema/tonight'
import { z } from 'zod'
import { DRINKS, PLAN, SHELF, TONIGHT } from '../../http/kept.ts'
import { route, writeRoute } from '../../http/route.ts'
import { chooseTonight, endChoice } from './choiceUseCases.ts'
import { endOut, markOut } from './outUseCases.ts'
import { getPourable } from './showPourable.ts'
import { getTonight, listMarkables } from './showTonight.ts'

const idParams = z.object({ id: z.coerce.number().int().min(1).max(2_147_483_647) })
const endedSchema = z.object({ ended: z.number().int() })

export const tonightRoutes = [
  route({
    method: 'get',
    path: '/api/tonight',
    summary: 'What is out, what was chosen for tonight, and every drink of the menu that is not simply made',
    act: 'read',
    response: tonightSchema,
    keep: {
      reads: ['edition', ...TONIGHT],
      until: 'night',
    },
    handle: ({ services }) => getTonight(services.database.db, services.now()),
  }),
  route({
    method: 'get',
    path: '/api/tonight/markables',
    summary: 'What can be marked out: what the menu wants, or what words lead to',
    act: 'markOut',
    query: z.strictObject({ words: z.string().max(200).optional() }),
    response: markablesSchema,
    keep: { reads: ['edition', 'lot', 'slot', 'glass', 'house', ...SHELF] },
    handle: ({ query, services }) => listMarkables(services.database.db, query.words?.trim() ?? ''),
  }),
  route({
    method: 'get',
    path: '/api/pourable',
    summary: 'What can be poured now at a well: of the menu or of the whole book, by what is wished for',
    act: 'read',
    query: pourableQuery,
    response: pourableSchema,
    keep: {
      reads: [...PLAN, ...DRINKS, ...TONIGHT, 'glasses', 'station', 'trial'],
      until: 'halfHour',
    },
    handle: ({ query, actor, services }) => getPourable(query, actor, services),
  }),
  writeRoute({
    method: 'post',
    path: '/api/outs',
    summary: 'Something is out, or low, at a well or in the house',
    mayBeLate: true,
    act: 'markOut',
    doing: 'say what is out',
    body: outDocumentSchema.omit({ saidAt: true }),
    response: outMarkSchema,
    status: 201,
    handle: ({ body, actor, write }) => markOut(body, actor, write),
  }),
  writeRoute({
    method: 'post',
    path: '/api/outs/{id}/end',
    summary: 'It is back, or was a wrong tap',
    mayBeLate: true,
    act: 'markOut',
    doing: 'say what is back',
    params: idParams,
    body: endOutSchema,
    response: endedSchema,
    handle: ({ params, body, actor, write }) => endOut(params.id, body.why, actor, write),
  }),
  writeRoute({
    method: 'post',
    path: '/api/drinks/{slug}/tonight',
    summary: 'What becomes of a drink tonight: something instead, or off',
    act: 'chooseTonight',
    doing: 'choose for tonight',
    params: z.object({ slug: slugSchema }),
    body: chooseTonightSchema,
    response: tonightChoiceSchema,
    status: 201,
    handle: ({ params, body, actor, write }) => chooseTonight(params.slug, body, actor, write),
  }),
  writeRoute({
    method: 'post',
    path: '/api/tonight/choices/{id}/end',
    summary: 'What was chosen for tonight no longer counts',
    act: 'chooseTonight',
    doing: 'end what was chosen for tonight',
    params: idParams,
    response: endedSchema,
    handle: ({ params, actor, write }) => endChoice(params.id, actor, write),
  }),
]
