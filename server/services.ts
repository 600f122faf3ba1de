import type { OpenDatabase } from './database/index.ts'
import { Sessions } from './door/sessions.ts'
import { Feed } from './feed/index.ts'
import { createHeld } from './held/index.ts'
import { KeptAnswers } from './http/kept.ts'
import { limitRate } from './http/rate.ts'
import type { Services } from './http/route.ts'
import { GlassKeeper, UsualPours } from './kept/index.ts'
import { createWork } from './threads/index.ts'

/** Everything that use cases need of an open house. One for each process and house. */
export function createServices(database: OpenDatabase, now: () => Date, mostRequests?: number): Services {
  const work = createWork()
  const held = createHeld(database)
  const glasses = new GlassKeeper({ database, held, work, now })
  const usual = new UsualPours({ database, held })
  return {
    database,
    now,
    work,
    held,
    glasses,
    usual,
    feed: new Feed({ database, held, now }),
    answers: new KeptAnswers(),
    sessions: new Sessions({ database, now }),
    rate: limitRate(mostRequests),
  }
}
