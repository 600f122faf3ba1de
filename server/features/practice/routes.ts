import { practicePeopleSchema, practicesSchema, saidPracticeSchema, sayPracticeSchema } from '@conch/contract'
import { route, writeRoute } from '../../http/route.ts'
import { getOwnPractice, getPracticeOfPeople, sayPractice } from './practiceUseCases.ts'

export const practiceRoutes = [
  route({
    method: 'get',
    path: '/api/practice',
    summary: 'What one practised oneself: every answer, and what one’s hand poured',
    act: 'practise',
    response: practicesSchema,
    handle: ({ actor, services }) => getOwnPractice(services.database.db, actor),
  }),
  route({
    method: 'get',
    path: '/api/practice/people',
    summary: 'How far everybody is who makes drinks here, by name',
    act: 'seeProgress',
    response: practicePeopleSchema,
    handle: ({ services }) => getPracticeOfPeople(services.database.db),
  }),
  writeRoute({
    method: 'post',
    path: '/api/practice',
    summary: 'A drill, or test pours, of whoever is here',
    mayBeLate: true,
    act: 'practise',
    doing: 'practise',
    body: sayPracticeSchema,
    response: saidPracticeSchema,
    status: 201,
    handle: ({ body, actor, write }) => sayPractice(body, actor, write),
  }),
]
