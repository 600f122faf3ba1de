import {
  createDrinkSchema,
  draftSchema,
  drinkListingSchema,
  drinkSchema,
  saveDraftSchema,
  saveVersionSchema,
  usualAmountsSchema,
  versionSchema,
} from '@conch/contract'
import { slugSchema } from '@conch/core/house/schema'
import { z } from 'zod'
import { route } from '../../http/route.ts'
import {
  createDrink,
  dropDraft,
  getDrink,
  getUsualAmounts,
  listDrinks,
  saveDraft,
  saveVersion,
} from './drinkUseCases.ts'

const slugParams = z.object({ slug: slugSchema })
const revisionParams = slugParams.extend({ revision: z.coerce.number().int().min(1).max(2_147_483_647) })

export const drinkRoutes = [
  route({
    method: 'get',
    path: '/api/usual-amounts',
    summary: 'What is usually poured of each thing here, ml for one serve',
    act: 'read',
    response: usualAmountsSchema,
    handle: ({ services }) => getUsualAmounts(services.database.db),
  }),
  route({
    method: 'get',
    path: '/api/drinks',
    summary: 'Every drink, by name',
    act: 'read',
    response: z.array(drinkListingSchema),
    handle: ({ services }) => listDrinks(services.database.db),
  }),
  route({
    method: 'post',
    path: '/api/drinks',
    summary: 'Make a new drink with a first draft',
    act: 'saveDraft',
    doing: 'make a drink',
    body: createDrinkSchema,
    response: drinkSchema,
    status: 201,
    handle: ({ body, actor, services }) => createDrink(body, actor, services),
  }),
  route({
    method: 'get',
    path: '/api/drinks/{slug}',
    summary: 'A drink with its versions and its draft',
    act: 'read',
    params: slugParams,
    response: drinkSchema,
    handle: ({ params, services }) => getDrink(services.database.db, params.slug),
  }),
  route({
    method: 'put',
    path: '/api/drinks/{slug}/draft',
    summary: 'Save the draft of a drink',
    act: 'saveDraft',
    doing: 'change a draft',
    params: slugParams,
    body: saveDraftSchema,
    response: draftSchema,
    handle: ({ params, body, actor, services }) => saveDraft(params.slug, body, actor, services),
  }),
  route({
    method: 'delete',
    path: '/api/drinks/{slug}/draft/{revision}',
    summary: 'Drop the draft of a drink',
    act: 'saveDraft',
    doing: 'drop a draft',
    params: revisionParams,
    response: z.object({ dropped: z.literal(true) }),
    handle: ({ params, services }) => dropDraft(params.slug, params.revision, services),
  }),
  route({
    method: 'post',
    path: '/api/drinks/{slug}/versions',
    summary: 'Save the draft as a new version, for ever',
    act: 'saveVersion',
    doing: 'save a version',
    params: slugParams,
    body: saveVersionSchema,
    response: versionSchema,
    status: 201,
    handle: ({ params, body, actor, services }) => saveVersion(params.slug, body, actor, services),
  }),
]
