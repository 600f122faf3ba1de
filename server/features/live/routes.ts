import { feedFrameSchema, feedQuery, hereSchema } from '@conch/contract'
import { z } from 'zod'
import { tellOthers } from '../../events/index.ts'
import { route, streamRoute } from '../../http/route.ts'
import { streamFeed } from './streamFeed.ts'

export const liveRoutes = [
  streamRoute({
    path: '/api/feed',
    summary: 'What happened since: as a stream of server-sent events for who accepts one, else once',
    act: 'readPublished',
    query: feedQuery,
    response: feedFrameSchema,
    handle: async ({ query, actor, services: { feed } }) => {
      const place = await feed.placeAfter(query.after)
      const { frame, place: next } = feed.behind(place, actor.role)
      return frame ?? { sequence: next.sequence, changed: [] }
    },
    stream: streamFeed,
  }),
  route({
    method: 'post',
    path: '/api/here',
    summary: 'A page says which draft it has open, so that others see who is on it',
    act: 'saveDraft',
    doing: 'say that a draft is open',
    body: hereSchema,
    response: z.object({ heard: z.literal(true) }),
    handle: async ({ body, actor, services: { feed, database } }) => {
      const said = { ...body, person: actor.id ?? 0, who: actor.name }
      feed.present.say(said)
      await tellOthers(database, { drafts: [], here: said })
      return { heard: true as const }
    },
  }),
]
