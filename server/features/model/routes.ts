import { answerModelSchema, modelMovedSchema } from '@conch/contract'
import { PLAN } from '../../http/kept.ts'
import { route, writeRoute } from '../../http/route.ts'
import { answerModel, getModelMoved } from './modelUseCases.ts'

export const modelRoutes = [
  route({
    method: 'get',
    path: '/api/model',
    summary: 'What a new model of the ice alone changed of what is poured',
    act: 'publishEdition',
    doing: 'see what a new model of the ice moved',
    response: modelMovedSchema,
    keep: { reads: [...PLAN, 'well', 'station', 'trial'] },
    handle: ({ actor, services }) => getModelMoved(actor, services),
  }),
  writeRoute({
    method: 'post',
    path: '/api/model',
    summary: 'Say what becomes of the standards under a new model of the ice: retaken, or kept',
    act: 'publishEdition',
    doing: 'retake the standards of a menu',
    body: answerModelSchema,
    response: modelMovedSchema,
    handle: ({ body, actor, write }) => answerModel(body, actor, write),
  }),
]
