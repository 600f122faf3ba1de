import {
  changeMenuSchema,
  menuSchema,
  nextMenuSchema,
  pouredMenuSchema,
  shownDrinksSchema,
  slugsQuery,
} from '@conch/contract'
import { slugSchema } from '@conch/core/house/schema'
import { z } from 'zod'
import { DRINKS, PLAN, SHELF, TONIGHT } from '../../http/kept.ts'
import { route, writeRoute } from '../../http/route.ts'
import { changeMenu, getMenu } from './menuUseCases.ts'
import { getNextMenu, getPouredMenu, getShownDrinks } from './shownMenu.ts'

const wellQuery = z.strictObject({ well: slugSchema })

export const menuRoutes = [
  route({
    method: 'get',
    path: '/api/menu',
    summary: 'The plan of the next edition',
    act: 'read',
    response: menuSchema,
    keep: { reads: PLAN },
    handle: ({ services }) => getMenu(services.database.db),
  }),
  route({
    method: 'get',
    path: '/api/menu/poured',
    summary: 'What is poured at a well: what each drink was locked as, and what it would be now',
    act: 'read',
    query: wellQuery,
    response: pouredMenuSchema,
    // What is made otherwise tonight is kept nowhere: it follows from the shelf itself.
    keep: {
      reads: ['edition', 'settings', 'menuGlasses', ...TONIGHT, 'station', 'trial'],
      until: 'halfHour',
    },
    handle: ({ query, actor, services }) => getPouredMenu(query.well, actor, services),
  }),
  route({
    method: 'get',
    path: '/api/menu/next',
    summary: 'What is planned as it would be poured at a well now, beside what is poured',
    act: 'read',
    query: wellQuery,
    response: nextMenuSchema,
    keep: { reads: [...PLAN, 'plannedDrinks', 'well', 'settings', 'menuGlasses'], until: 'halfHour' },
    handle: ({ query, actor, services }) => getNextMenu(query.well, actor, services),
  }),
  route({
    method: 'get',
    path: '/api/shown-drinks',
    summary: 'Drinks as they are shown, each with its glass at a well: all, on the menu, or on a bottle, mix or slot',
    act: 'read',
    query: wellQuery.extend({
      on: slugsQuery.shape.of.optional(),
      slot: slugSchema.optional(),
      menu: z.literal('yes').optional(),
    }),
    response: shownDrinksSchema,
    keep: { reads: [...PLAN, ...DRINKS, ...SHELF, 'slot', 'well', 'settings', 'glasses', 'drafts'], until: 'halfHour' },
    handle: ({ query, actor, services }) => getShownDrinks(query, actor, services),
  }),
  writeRoute({
    method: 'put',
    path: '/api/menu',
    summary: 'Change the plan of the next edition',
    act: 'planMenu',
    doing: 'plan the menu',
    body: changeMenuSchema,
    response: menuSchema,
    handle: ({ body, actor, write }) => changeMenu(body, actor, write),
  }),
]
