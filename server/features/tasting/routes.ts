import { addFlightSchema } from '@conch/contract'
import { flightSchema } from '@conch/core/style/schema'
import { writeRoute } from '../../http/route.ts'
import { addFlight } from './addFlight.ts'

export const tastingRoutes = [
  writeRoute({
    method: 'post',
    path: '/api/flights',
    summary: 'Write down a tasting flight',
    act: 'taste',
    doing: 'write down what was tasted',
    body: addFlightSchema,
    response: flightSchema,
    status: 201,
    handle: ({ body, actor, write }) => addFlight(body, actor, write),
  }),
]
