import { closeSync, fsyncSync, openSync, renameSync, writeFileSync } from 'node:fs'
import { join, resolve } from 'node:path'
import { houseFileSchema } from '@conch/contract'
import { serve } from '@hono/node-server'
import pino from 'pino'
import { DirectoryInUse, openPglite, openPostgres } from './database/index.ts'
import { DEMO, SERVER_ROOT, WEB_DIST } from './database/paths.ts'
import { loadHouse } from './features/house/store.ts'
import { exportHouse, importHouse } from './features/transfer/transferUseCases.ts'
import { createApp } from './http/app.ts'
import { check } from './http/readBody.ts'
import type { Services } from './http/route.ts'
import { readHouseFolder } from './readHouseFolder.ts'

const MAINTAIN_EVERY_MS = 10 * 60_000
/** The first time soon after the start: a new directory, or what a kill left, is then on the disk. */
const MAINTAIN_FIRST_MS = 30_000

/** Writes the whole house beside the database, complete or not at all, flushed to the disk. */
async function writeCopy(services: Services, directory: string): Promise<void> {
  if (!(await loadHouse(services.database.db))) return
  const path = join(directory, 'house-copy.json')
  const file = openSync(`${path}.part`, 'w')
  try {
    writeFileSync(file, JSON.stringify(await exportHouse(services.database.db)))
    fsyncSync(file)
  } finally {
    closeSync(file)
  }
  renameSync(`${path}.part`, path)
}

/** Something that the person who starts it can mend: shown as one line. */
class SetUpProblem extends Error {}

function readPort(text = '4600'): number {
  const port = Number(text)
  if (Number.isInteger(port) && port >= 1 && port <= 65_535) return port
  throw new SetUpProblem(`PORT is “${text}”; it must be a whole number from 1 to 65535.`)
}

async function main(): Promise<void> {
  const log = pino({ level: process.env.CONCH_LOG ?? 'warn' })
  const port = readPort(process.env.PORT)
  const directory = resolve(process.env.CONCH_DATA ?? join(SERVER_ROOT, '../data'))
  const url = process.env.DATABASE_URL
  const database = url ? await openPostgres(url) : await openPglite(directory)
  const services: Services = { database, now: () => new Date() }

  if (process.argv.includes('--demo') && !(await loadHouse(database.db))) {
    const came = await importHouse(
      check(houseFileSchema, readHouseFolder(DEMO)),
      { isDemo: true, by: 'Manager' },
      services,
    )
    await database.makeDurable()
    console.log(`Loaded the demo house: ${came.drinks} drinks, ${came.versions} versions, ${came.editions} editions.`)
  }
  const app = createApp({ ...services, log, webRoot: WEB_DIST })
  const server = serve({ fetch: app.fetch, port }, () => {
    console.log(`Lazy Conch is open: http://localhost:${port}`)
    console.log(url ? 'Data: the PostgreSQL server of DATABASE_URL' : `Data: ${directory}`)
  })
  server.on('error', async (error: NodeJS.ErrnoException) => {
    console.error(error.code === 'EADDRINUSE' ? `Port ${port} is taken. Choose another with PORT.` : error.message)
    await database.close()
    process.exit(1)
  })
  const maintain = async () => {
    await database.maintain()
    if (!url) await writeCopy(services, directory)
  }
  const tryMaintain = () => maintain().catch((err) => log.error({ err }, 'maintenance failed'))
  const first = setTimeout(tryMaintain, MAINTAIN_FIRST_MS)
  const timer = setInterval(tryMaintain, MAINTAIN_EVERY_MS)

  let isClosing = false
  const close = async () => {
    if (isClosing) return
    isClosing = true
    clearTimeout(first)
    clearInterval(timer)
    server.close()
    if ('closeIdleConnections' in server) server.closeIdleConnections()
    // A full disk must not keep the database from closing well.
    if (!url) await writeCopy(services, directory).catch((err) => log.error({ err }, 'the copy was not written'))
    await database.close()
    process.exit(0)
  }
  process.on('SIGTERM', close)
  process.on('SIGINT', close)
}

main().catch((error) => {
  // One line for what a person can mend; the whole of it for a bug.
  const isPlain = error instanceof DirectoryInUse || error instanceof SetUpProblem
  console.error(isPlain ? error.message : error)
  process.exit(1)
})
