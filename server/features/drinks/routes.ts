import {
  createDrinkSchema,
  drinkListingSchema,
  drinkSchema,
  saveVersionSchema,
  usualAmountsSchema,
  versionSchema,
} from '@conch/contract'
import { slugSchema } from '@conch/core/house/schema'
import { z } from 'zod'
import { DRINKS, PLAN, SHELF } from '../../http/kept.ts'
import { route, writeRoute } from '../../http/route.ts'
import {
  createDrink,
  deleteDrink,
  getDrink,
  getUsualAmounts,
  hideDrink,
  listDrinks,
  saveVersion,
} from './drinkUseCases.ts'

const slugParams = z.object({ slug: slugSchema })

export const drinkRoutes = [
  route({
    method: 'get',
    path: '/api/usual-amounts',
    summary: 'What is usually poured of each thing here, ml for one serve',
    act: 'read',
    response: usualAmountsSchema,
    keep: { reads: [...DRINKS, ...SHELF, 'settings'] },
    handle: ({ services }) => getUsualAmounts(services.database.db),
  }),
  route({
    method: 'get',
    path: '/api/drinks',
    summary: 'Every drink, by name',
    act: 'read',
    response: z.array(drinkListingSchema),
    keep: { reads: [...DRINKS, ...PLAN, 'drafts'] },
    handle: ({ services }) => listDrinks(services.database.db),
  }),
  writeRoute({
    method: 'post',
    path: '/api/drinks',
    summary: 'Make a new drink with a first draft',
    act: 'saveDraft',
    doing: 'make a drink',
    body: createDrinkSchema,
    response: drinkSchema,
    status: 201,
    handle: ({ body, actor, write }) => createDrink(body, actor, write),
  }),
  route({
    method: 'get',
    path: '/api/drinks/{slug}',
    summary: 'A drink with its versions and its draft',
    act: 'read',
    params: slugParams,
    response: drinkSchema,
    keep: { reads: ({ slug }) => [`drink/${slug}`, ...PLAN, 'drafts'] },
    handle: ({ params, services }) => getDrink(services.database.db, params.slug),
  }),
  writeRoute({
    method: 'delete',
    path: '/api/drinks/{slug}',
    summary: 'Throw a drink away that has no version yet',
    act: 'saveDraft',
    doing: 'throw a drink away',
    params: slugParams,
    response: z.object({ deleted: z.literal(true) }),
    handle: ({ params, write }) => deleteDrink(params.slug, write),
  }),
  writeRoute({
    method: 'put',
    path: '/api/drinks/{slug}/hidden',
    summary: 'Put a drink out of the way, or back',
    act: 'saveVersion',
    doing: 'hide a drink',
    params: slugParams,
    body: z.object({ isHidden: z.boolean() }).strict(),
    response: drinkSchema,
    handle: ({ params, body, write }) => hideDrink(params.slug, body, write),
  }),
  writeRoute({
    method: 'post',
    path: '/api/drinks/{slug}/versions',
    summary: 'Save the draft as a new version, for ever',
    act: 'saveVersion',
    doing: 'save a version',
    params: slugParams,
    body: saveVersionSchema,
    response: versionSchema,
    status: 201,
    handle: ({ params, body, actor, write }) => saveVersion(params.slug, body, actor, write),
  }),
]
