import { aliveSchema, readySchema } from '@conch/contract'
import { NotReady } from '../../database/index.ts'
import { Refusal } from '../../errors/Refusal.ts'
import { route } from '../../http/route.ts'
import { isSetUp } from '../../stores/house.ts'
import { loadPeople } from '../../stores/people.ts'

export const healthRoutes = [
  route({
    method: 'get',
    path: '/api/ready',
    summary: 'Whether the house can be asked and changed; 503 with the cause while it cannot',
    act: 'lookAround',
    isForAnybody: true,
    response: readySchema,
    handle: async ({ services: { database } }) => {
      try {
        const { db, kind } = database
        return {
          ready: true as const,
          isSetUp: await isSetUp(db),
          hasPeople: (await loadPeople(db)).length > 0,
          database: kind,
        }
      } catch (cause) {
        if (cause instanceof Refusal || cause instanceof NotReady) throw cause
        throw new Refusal('notReady', 'the database does not answer', { cause })
      }
    },
  }),
]

/** Whether the process lives: asks nothing of the database. */
export const ALIVE = aliveSchema.parse({ alive: true })
