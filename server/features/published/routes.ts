import { publishedMenuSchema } from '@conch/contract'
import { TONIGHT } from '../../http/kept.ts'
import { route } from '../../http/route.ts'
import { showPublishedMenu } from './showPublishedMenu.ts'

export const publishedRoutes = [
  route({
    method: 'get',
    path: '/api/published-menu',
    summary: 'What is poured: chapters and drinks by name, with allergens and strength, without pours',
    act: 'readPublished',
    response: publishedMenuSchema,
    keep: {
      reads: ['edition', ...TONIGHT],
      until: 'night',
    },
    handle: ({ actor, services }) => showPublishedMenu(services.database.db, actor, services.now()),
  }),
]
