/** A sign-in that is known beforehand, for a house that is measured: never in one that people open. */

import type { Database } from '../database/index.ts'
import { tokenHash } from '../door/token.ts'
import { insertSession } from '../stores/access.ts'

const TOKEN = 'measured'.padEnd(43, '-')

/** What its requests carry. */
export const measured = (origin: string) => ({ cookie: `conch=${TOKEN}`, origin })

/** From now on its first person is signed in, for a year. */
export async function letIn(db: Database, now: Date): Promise<void> {
  await insertSession(db, {
    personId: 1,
    tokenHash: tokenHash(TOKEN),
    madeAt: now,
    // Its token never turns while one measures.
    turnedAt: new Date(now.getTime() + 365 * 86_400_000),
    until: new Date(now.getTime() + 365 * 86_400_000),
  })
}
