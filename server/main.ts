import { readFileSync } from 'node:fs'
import { createServer as createTlsServer } from 'node:https'
import { setFlagsFromString } from 'node:v8'
import { houseFileSchema } from '@conch/contract'
import { serve } from '@hono/node-server'
import pino from 'pino'
import { NOBODY } from './access/actor.ts'
import { createApp } from './app.ts'
import { backUpTonight } from './backup/backups.ts'
import { DEMO, WEB_DIST } from './database/paths.ts'
import { giveDemoSecrets, hashDemoSecrets, openOlderDemo } from './demoSecrets.ts'
import { withoutValues } from './errors/withoutValues.ts'
import { clearKeptAnswers } from './events/answerOnce.ts'
import { beginOlderHouse } from './events/beginOlderHouse.ts'
import { inWrite } from './events/index.ts'
import { LOCKING } from './features/access/index.ts'
import { keepSealed } from './features/house/index.ts'
import { importHouseFile } from './features/transfer/importHouseFile.ts'
import { refitOutdated } from './features/trials/refitOutdated.ts'
import { hostNames, InFlight } from './http/guards.ts'
import { check } from './http/readBody.ts'
import type { Services } from './http/route.ts'
import { dataDirectory, endWith, openHouse, SetUpProblem } from './openHouse.ts'
import { readHouseFolder } from './readHouseFolder.ts'
import { createServices } from './services.ts'
import { clearAccess, hasManagerWithSecret } from './stores/access.ts'
import { isSetUp } from './stores/house.ts'

const MAINTAIN_EVERY_MS = 10 * 60_000
/** The first time soon after the start: a new directory, or what a kill left, is then on the disk. */
const MAINTAIN_FIRST_MS = 30_000
/** How long a line without requests is kept open. */
const KEEP_LINES_MS = 65_000
/** How long what is under way may take when the house closes: then it is told that it was not saved. */
const FINISH_WITHIN_MS = 2_500

function readPort(text = '4600'): number {
  const port = Number(text)
  if (Number.isInteger(port) && port >= 1 && port <= 65_535) return port
  throw new SetUpProblem(`PORT is “${text}”; it must be a whole number from 1 to 65535.`)
}

/** How the line is encrypted, where it is. @throws SetUpProblem for one file without the other, or one that is not there */
function readTls(cert = process.env.TLS_CERT, key = process.env.TLS_KEY): { cert: Buffer; key: Buffer } | undefined {
  if (!cert && !key) return undefined
  if (!cert || !key) throw new SetUpProblem('TLS_CERT and TLS_KEY belong together: name both files, or neither.')
  const read = (name: string, file: string) => {
    try {
      return readFileSync(file)
    } catch {
      throw new SetUpProblem(`${name} names ${file}, which cannot be read.`)
    }
  }
  return { cert: read('TLS_CERT', cert), key: read('TLS_KEY', key) }
}

const isYes = (name: string) => {
  const text = process.env[name] ?? ''
  if (/^(|0|no|false)$/i.test(text)) return false
  if (/^(1|yes|true)$/i.test(text)) return true
  throw new SetUpProblem(`${name} is “${text}”; it must be yes or no.`)
}

function readMostRequests(text = process.env.CONCH_MOST_REQUESTS): number | undefined {
  if (!text) return undefined
  const most = Number(text)
  if (Number.isInteger(most) && most >= 1) return most
  throw new SetUpProblem(`CONCH_MOST_REQUESTS is “${text}”; it must be a whole number from 1 on.`)
}

async function loadDemo(services: Services): Promise<void> {
  const file = check(houseFileSchema, readHouseFolder(DEMO, services.now()))
  const secrets = await hashDemoSecrets(services.now())
  const came = await inWrite(services.database, { actor: NOBODY, now: services.now }, async (write) => {
    const brought = await importHouseFile(file, { isDemo: true }, write)
    await giveDemoSecrets(secrets, write)
    return brought
  })
  await services.database.makeDurable()
  console.log(`Loaded the demo house: ${came.drinks} drinks, ${came.versions} versions, ${came.editions} editions.`)
}

async function main(): Promise<void> {
  const log = pino({ level: process.env.CONCH_LOG ?? 'warn' })
  const port = readPort(process.env.PORT)
  // This machine alone, unless somebody says otherwise.
  const hostname = process.env.HOST ?? '127.0.0.1'
  const database = await openHouse()
  const tls = readTls()
  const trustsProxy = isYes('TRUST_PROXY')
  const services = createServices(database, () => new Date(), readMostRequests())
  await beginOlderHouse(services)
  await keepSealed(services)
  if (process.argv.includes('--demo') && !(await isSetUp(database.db))) await loadDemo(services)

  if (process.argv.includes('--demo')) await openOlderDemo(services)
  const isOpenToNobody = (await isSetUp(database.db)) && !(await hasManagerWithSecret(database.db))
  const inFlight = new InFlight()
  const hosts = hostNames(hostname, (process.env.CONCH_HOSTS ?? '').split(/[\s,]+/).filter(Boolean))
  const app = createApp({ ...services, log, webRoot: WEB_DIST, hosts, inFlight, trustsProxy })
  const encrypted = tls ? { createServer: createTlsServer, serverOptions: tls } : {}
  const server = serve({ fetch: app.fetch, port, hostname, ...encrypted }, () => {
    const name = hostname === '127.0.0.1' ? 'localhost' : hostname
    console.log(`Lazy Conch is open: ${tls ? 'https' : 'http'}://${name}:${port}`)
    if (isOpenToNobody) console.log('Nobody can sign in yet. On this machine: npm run reset-manager')
    // Once people are answered: it may take seconds.
    services.glasses.start((err) => log.error({ err: withoutValues(err) }, 'glasses were not computed'))
    refitOutdated(services).catch((err) => log.error({ err: withoutValues(err) }, 'stations were not fitted anew'))
    console.log(
      database.kind === 'postgresql' ? 'Data: the PostgreSQL server of DATABASE_URL' : `Data: ${dataDirectory()}`,
    )
  })
  // Whoever waited behind something long is answered, not cut off because the line seemed idle.
  if ('keepAliveTimeout' in server) server.keepAliveTimeout = KEEP_LINES_MS
  server.on('error', async (error: NodeJS.ErrnoException) => {
    const reasons: Record<string, string> = {
      EADDRINUSE: `Port ${port} is taken. Choose another with PORT.`,
      EADDRNOTAVAIL: `This machine has no address “${hostname}”. Choose another with HOST.`,
      EACCES: `This user may not listen on port ${port}. Choose another with PORT.`,
    }
    console.error(reasons[error.code ?? ''] ?? error.message)
    await database.close()
    process.exit(1)
  })
  const maintain = async () => {
    if (!database.isTaking) return
    await database.maintain()
    await clearKeptAnswers(database.db, services.now())
    await clearAccess(database.db, services.now(), LOCKING)
    await backUpTonight(database, dataDirectory(), services.now())
    // Last: what cannot be fitted keeps nobody from a back-up. After an import there may be some.
    await refitOutdated(services)
  }
  const tryMaintain = () => maintain().catch((err) => log.error({ err: withoutValues(err) }, 'maintenance failed'))
  const first = setTimeout(tryMaintain, MAINTAIN_FIRST_MS)
  const timer = setInterval(tryMaintain, MAINTAIN_EVERY_MS)

  let isClosing = false
  const close = async () => {
    if (isClosing) return
    isClosing = true
    clearTimeout(first)
    clearInterval(timer)
    // Nothing new is begun: whoever asks now, or still waits for their turn, hears 503.
    database.stopTaking()
    await services.feed.close()
    server.close()
    if ('closeIdleConnections' in server) server.closeIdleConnections()
    await inFlight.end(FINISH_WITHIN_MS)
    if ('closeAllConnections' in server) server.closeAllConnections()
    await services.glasses.stop()
    await services.work.close()
    await database.close()
    process.exit(0)
  }
  process.on('SIGTERM', close)
  process.on('SIGINT', close)
}

// A bar's machine has other things to do: what is thrown away is given back sooner, at a little more work.
setFlagsFromString('--heap-growing-percent=50')
main().catch(endWith)
