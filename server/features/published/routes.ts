import { publishedMenuSchema } from '@conch/contract'
import { route } from '../../http/route.ts'
import { showPublishedMenu } from './showPublishedMenu.ts'

export const publishedRoutes = [
  route({
    method: 'get',
    path: '/api/published-menu',
    summary: 'What is poured: chapters and drinks by name, with allergens and strength, without pours',
    act: 'readPublished',
    response: publishedMenuSchema,
    keep: { reads: ['edition'] },
    handle: ({ services }) => showPublishedMenu(services.database.db),
  }),
]
