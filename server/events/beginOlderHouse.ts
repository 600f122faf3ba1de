import { NOBODY } from '../access/actor.ts'
import type { OpenDatabase } from '../database/index.ts'
import { isSetUp } from '../stores/house.ts'
import { latestSequence } from './chain.ts'
import { inWrite } from './write.ts'

/** A house from before there was a chain: its history so far becomes one hashed beginning. Once. */
export async function beginOlderHouse({ database, now }: { database: OpenDatabase; now: () => Date }): Promise<void> {
  if ((await latestSequence(database.db)) > 0 || !(await isSetUp(database.db))) return
  await inWrite(database, { actor: NOBODY, now }, async ({ db, record }) => {
    if ((await latestSequence(db)) > 0) return
    record({ kind: 'house', subject: 'history', verb: 'began', isBeginning: true })
  })
  await database.makeDurable()
}
