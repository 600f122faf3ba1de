import { houseFileSchema } from '@conch/contract'
import { z } from 'zod'
import { route } from '../../http/route.ts'
import { exportHouse, importHouse } from './transferUseCases.ts'

/** A house file carries whole locks: it may be larger than any other body. */
const MOST_HOUSE_FILE_BYTES = 64_000_000

export const transferRoutes = [
  route({
    method: 'get',
    path: '/api/export',
    summary: 'The whole house as one file',
    act: 'exportHouse',
    doing: 'export the house',
    response: houseFileSchema,
    handle: ({ services }) => exportHouse(services.database.db),
  }),
  route({
    method: 'post',
    path: '/api/import',
    summary: 'Bring a whole house in from a file, into an empty data directory',
    act: 'setUpHouse',
    doing: 'import a house',
    body: houseFileSchema,
    mostBodyBytes: MOST_HOUSE_FILE_BYTES,
    response: z.object({ drinks: z.number(), versions: z.number(), editions: z.number() }),
    status: 201,
    handle: ({ body, actor, services }) => importHouse(body, { isDemo: false, by: actor.name }, services),
  }),
]
