import { changeMenuSchema, menuSchema } from '@conch/contract'
import { PLAN } from '../../http/kept.ts'
import { route, writeRoute } from '../../http/route.ts'
import { changeMenu, getMenu } from './menuUseCases.ts'

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
