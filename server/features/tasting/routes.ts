import { addFlightSchema } from '@conch/contract'
import { flightSchema } from '@conch/core/style/schema'
import { route } from '../../http/route.ts'
import { addFlight } from './addFlight.ts'

export const tastingRoutes = [
  route({
    method: 'post',
    path: '/api/flights',
    summary: 'Write down a tasting flight',
    act: 'taste',
    doing: 'write down what was tasted',
    body: addFlightSchema,
    response: flightSchema,
    status: 201,
    handle: ({ body, actor, services }) => addFlight(body, actor, services),
  }),
]
