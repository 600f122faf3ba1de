import type { OpenDatabase } from './database/index.ts'
import { createHeld } from './held/index.ts'
import { KeptAnswers } from './http/kept.ts'
import type { Services } from './http/route.ts'
import { GlassKeeper, UsualPours } from './kept/index.ts'
import { createWork } from './threads/index.ts'

/** Everything that use cases need of an open house. One for each process and house. */
export function createServices(database: OpenDatabase, now: () => Date): Services {
  const work = createWork()
  const held = createHeld(database)
  const glasses = new GlassKeeper({ database, held, work, now })
  const usual = new UsualPours({ database, held })
  return { database, now, work, held, glasses, usual, answers: new KeptAnswers() }
}
