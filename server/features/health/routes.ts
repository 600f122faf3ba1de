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
        // Both at once: while an old house is read in, each would wait for a turn of its own.
        const [hasHouse, people] = await Promise.all([isSetUp(db), loadPeople(db)])
        return { ready: true as const, isSetUp: hasHouse, hasPeople: people.length > 0, database: kind }
      } catch (cause) {
        if (cause instanceof Refusal || cause instanceof NotReady) throw cause
        throw new Refusal('notReady', 'the database does not answer', { cause })
      }
    },
  }),
]

/** Whether the process lives: asks nothing of the database. */
export const ALIVE = aliveSchema.parse({ alive: true })
