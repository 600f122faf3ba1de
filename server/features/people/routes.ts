import { changePersonSchema, makePersonSchema, personSchema } from '@conch/contract'
import { z } from 'zod'
import { route, writeRoute } from '../../http/route.ts'
import { loadPeople } from '../../stores/people.ts'
import { hashOwn } from '../access/index.ts'
import { changePerson, makePerson } from './peopleUseCases.ts'

const idParams = z.object({ id: z.coerce.number().int().min(1).max(2_147_483_647) })

export const peopleRoutes = [
  route({
    method: 'get',
    path: '/api/people',
    summary: 'Who works here: names and roles',
    act: 'read',
    response: z.array(personSchema),
    keep: { reads: ['person'] },
    handle: ({ services }) => loadPeople(services.database.db),
  }),
  writeRoute({
    method: 'post',
    path: '/api/people',
    summary: 'Somebody new',
    act: 'editPeople',
    doing: 'add a person',
    body: makePersonSchema,
    response: personSchema,
    status: 201,
    prepare: async ({ body: { secret, ...person } }) => (secret === undefined ? undefined : hashOwn(secret, person)),
    handle: ({ body, prepared, write }) => makePerson(body, prepared, write),
  }),
  writeRoute({
    method: 'put',
    path: '/api/people/{id}',
    summary: 'Another name or role, or no longer here',
    act: 'editPeople',
    doing: 'change a person',
    params: idParams,
    body: changePersonSchema,
    response: personSchema,
    handle: ({ params, body, actor, write }) => changePerson({ ...body, id: params.id }, actor, write),
  }),
]
