import { addFlightSchema, flightPageSchema, flightsQuery } from '@conch/contract'
import { flightSchema } from '@conch/core/schema/palate'
import { route, writeRoute } from '../../http/route.ts'
import { loadNewestFlights } from '../../stores/flights.ts'
import { addFlight } from './addFlight.ts'

export const flightRoutes = [
  route({
    method: 'get',
    path: '/api/flights',
    summary: 'What was tasted, newest first: of one bottle, or the last flights',
    act: 'read',
    query: flightsQuery,
    response: flightPageSchema,
    keep: { reads: ['flight'] },
    handle: ({ query, services }) => loadNewestFlights(services.database.db, query),
  }),
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
