/** `npm run restore -- file`: a house back from a copy; what stands in the data directory is set aside. */

import { existsSync, renameSync } from 'node:fs'
import { join, resolve } from 'node:path'
import { openPostgres } from './database/index.ts'
import { lockDirectory } from './database/lockDirectory.ts'
import { openPglite } from './database/openPglite.ts'
import { Refusal } from './errors/Refusal.ts'
import { type BroughtIn, bringIn } from './features/transfer/bringIn.ts'
import { dataDirectory, endWith, SetUpProblem } from './openHouse.ts'

const SHOWN_EVERY = 20_000

function showProgress(): (done: number, of: number) => void {
  let shown = 0
  return (done, of) => {
    if (done - shown < SHOWN_EVERY) return
    shown = done
    console.log(`${done} of ${of} lines`)
  }
}

async function bring(file: string): Promise<BroughtIn> {
  const options = { now: () => new Date(), onProgress: showProgress() }
  const url = process.env.DATABASE_URL
  if (url) {
    const database = await openPostgres(url)
    try {
      return await bringIn(database, file, options)
    } finally {
      await database.close()
    }
  }
  return intoDirectory(file, dataDirectory(), options)
}

/** The new database is filled and checked beside the old one; only then do they change places. */
async function intoDirectory(
  file: string,
  directory: string,
  options: Parameters<typeof bringIn>[2],
): Promise<BroughtIn> {
  // A running house keeps its directory: nothing is taken from under it.
  const release = await lockDirectory(directory)
  try {
    const incoming = join(directory, `restoring-${process.pid}`)
    const database = await openPglite(incoming)
    let came: BroughtIn
    try {
      came = await bringIn(database, file, options)
    } finally {
      await database.close()
    }
    const old = join(directory, 'database')
    if (existsSync(old)) {
      const aside = join(directory, `database-before-restore-${new Date().toISOString().replace(/[:.]/g, '-')}`)
      renameSync(old, aside)
      console.log(`What was there is kept in ${aside}`)
    }
    renameSync(join(incoming, 'database'), old)
    return came
  } finally {
    const { rmSync } = await import('node:fs')
    rmSync(join(directory, `restoring-${process.pid}`), { recursive: true, force: true })
    await release()
  }
}

async function main(): Promise<void> {
  const file = process.argv[2]
  if (!file) throw new SetUpProblem('Name the copy: npm run restore -- path/to/house-2026-11-28.ndjson.gz')
  const path = resolve(process.env.INIT_CWD ?? '.', file)
  if (!existsSync(path)) throw new SetUpProblem(`There is no file ${path}.`)
  try {
    const came = await bring(path)
    console.log(`Restored ${came.drinks} drinks, ${came.versions} versions, ${came.editions} editions.`)
    console.log('PINs and passphrases are in no copy. Make a manager’s passphrase now: npm run reset-manager')
    for (const remark of came.remarks) console.log(`Note: ${remark}`)
  } catch (error) {
    if (error instanceof Refusal) throw new SetUpProblem(`Nothing was restored: ${error.message}`)
    throw error
  }
}

main().catch(endWith)
