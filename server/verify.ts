/** `npm run verify [-- file]`: whether a stopped house, or a back-up of one, is still what was written. */

import { existsSync, mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join, resolve } from 'node:path'
import type { VerifyReport } from '@conch/contract'
import { type OpenDatabase, openPglite } from './database/index.ts'
import { Refusal } from './errors/Refusal.ts'
import { verifyChain, verifyEditions } from './events/verify.ts'
import { bringIn } from './features/transfer/bringIn.ts'
import { endWith, openHouse, SetUpProblem } from './openHouse.ts'

async function verify(database: OpenDatabase): Promise<VerifyReport> {
  const editions = []
  for await (const report of verifyEditions(database.db)) editions.push(report)
  return { ...(await verifyChain(database.db)), editions }
}

/** A back-up is brought into a directory that is thrown away: that alone says that it would come back. */
async function verifyFile(path: string): Promise<VerifyReport> {
  const directory = mkdtempSync(join(tmpdir(), 'conch-verify-'))
  try {
    const database = await openPglite(directory)
    try {
      await bringIn(database, path, { now: () => new Date() })
      return await verify(database)
    } finally {
      await database.close()
    }
  } finally {
    rmSync(directory, { recursive: true, force: true })
  }
}

async function verifyHouse(): Promise<VerifyReport> {
  const database = await openHouse()
  try {
    return await verify(database)
  } finally {
    await database.close()
  }
}

function say({ events, rows, problems, editions }: VerifyReport): boolean {
  const recomputed = editions.filter((e) => e.how === 'recomputed')
  const wrong = editions.filter((e) => e.problems.length > 0)
  for (const problem of problems) console.log(`BROKEN  ${problem}`)
  for (const e of wrong) for (const p of e.problems) console.log(`BROKEN  edition ${e.number} “${e.name}”: ${p}`)
  console.log(`${events} events in one chain, ${rows} rows of history, ${editions.length} editions.`)
  console.log(`${recomputed.length} editions were computed anew from what they froze, figure by figure;`)
  console.log(`${editions.length - recomputed.length} are of another model of the ice: only their hash was checked.`)
  const isSound = problems.length === 0 && wrong.length === 0
  console.log(
    isSound
      ? 'It holds: no row of history was changed, taken out or put in since its event was written.'
      : 'It does not hold.',
  )
  console.log(
    'What this does not prove: who really sat at a device, or that somebody who may write to the database has not written the whole chain anew. Keep a copy elsewhere and compare the last hash.',
  )
  return isSound
}

async function main(): Promise<void> {
  const file = process.argv[2]
  const path = file && resolve(process.env.INIT_CWD ?? '.', file)
  if (path && !existsSync(path)) throw new SetUpProblem(`There is no file ${path}.`)
  try {
    process.exit(say(path ? await verifyFile(path) : await verifyHouse()) ? 0 : 1)
  } catch (error) {
    if (error instanceof Refusal) throw new SetUpProblem(`It cannot be read: ${error.message}`)
    throw error
  }
}

main().catch(endWith)
