import { randomUUID } from 'node:crypto'
import { createWriteStream } from 'node:fs'
import { mkdir, rm } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { Readable, Transform } from 'node:stream'
import { pipeline } from 'node:stream/promises'
import { claimHouseSchema, importStateSchema, verifyReportSchema, youSchema } from '@conch/contract'
import type { Context } from 'hono'
import { z } from 'zod'
import { writeCopy } from '../../copy/writeCopy.ts'
import { Refusal } from '../../errors/Refusal.ts'
import { withoutValues } from '../../errors/withoutValues.ts'
import { type LockEdition, verifyChain, verifyEditions } from '../../events/verify.ts'
import { fileRoute, route, type Services, uploadRoute, writeRoute } from '../../http/route.ts'
import { isSetUp } from '../../stores/house.ts'
import { LOCK, readLock } from '../editions/index.ts'
import { claimHouse, proveClaim } from './claim.ts'
import { assertNoImport, cancelImport, findImport, startImport } from './importJob.ts'

/** More than any house is, and less than fills a disk by mistake. */
const MOST_UPLOAD_BYTES = 16 * 1024 ** 3

const idParams = z.object({ id: z.uuid() })

const found = (state: ReturnType<typeof findImport>, id: string) => {
  if (!state) throw new Refusal('notFound', `no import has the number ${id}`)
  return state
}

/** Only into an empty house, and that is said before anything is read. */
async function assertEmpty({ database }: Services): Promise<void> {
  if (await isSetUp(database.db))
    throw new Refusal('exists', 'this house is set up already; import into an empty one, or restore on its machine')
  assertNoImport()
}

/** Writes what is sent beside the data, and stops where it is too much. @returns the file */
async function keepUpload(c: Context, { database }: Services): Promise<string> {
  const folder = database.place && 'directory' in database.place ? database.place.directory : tmpdir()
  await mkdir(folder, { recursive: true })
  const isPacked = /gzip/.test(c.req.header('content-type') ?? '')
  const file = join(folder, `upload-${randomUUID()}${isPacked ? '.gz' : ''}`)
  let bytes = 0
  const counted = new Transform({
    transform(chunk: Buffer, _encoding, done) {
      bytes += chunk.byteLength
      done(bytes > MOST_UPLOAD_BYTES ? new Refusal('tooLarge', 'the file is larger than any house') : null, chunk)
    },
  })
  try {
    if (!c.req.raw.body) throw new Refusal('invalid', 'there is no file in the request')
    await pipeline(Readable.fromWeb(c.req.raw.body as never), counted, createWriteStream(file))
    return file
  } catch (error) {
    await rm(file, { force: true })
    throw error
  }
}

export const transferRoutes = [
  fileRoute({
    path: '/api/export',
    summary: 'The whole house with its whole history as a copy, line by line',
    act: 'exportHouse',
    doing: 'export the house',
    contentType: 'application/x-ndjson',
    handle: async ({ services }) => {
      if (!(await isSetUp(services.database.db))) throw new Refusal('notSetUp', 'there is no house to copy yet')
      const lines = Readable.from(writeCopy(services.database.db), { objectMode: false })
      return { name: 'house.ndjson', content: Readable.toWeb(lines) as ReadableStream<Uint8Array> }
    },
  }),
  uploadRoute({
    path: '/api/import',
    summary: 'Bring a house in from a copy, or from a single house file, into an empty house',
    act: 'setUpHouse',
    doing: 'import a house',
    response: importStateSchema,
    status: 202,
    handle: async ({ services, context }) => {
      await assertEmpty(services)
      const file = await keepUpload(context, services)
      return startImport(file, services, (error) =>
        context.get('log').error({ err: withoutValues(error) }, 'an import failed'),
      )
    },
  }),
  route({
    method: 'get',
    path: '/api/import/{id}',
    summary: 'How far an import has got',
    act: 'lookAround',
    params: idParams,
    response: importStateSchema,
    handle: async ({ params }) => found(findImport(params.id), params.id),
  }),
  uploadRoute({
    path: '/api/import/{id}/cancel',
    summary: 'Stop an import: nothing of it comes in',
    act: 'setUpHouse',
    params: idParams,
    response: importStateSchema,
    status: 200,
    handle: async ({ params }) => found(cancelImport(params.id), params.id),
  }),
  writeRoute({
    method: 'post',
    path: '/api/claim',
    summary: 'Make the first passphrase of a house that one has just brought in',
    act: 'signIn',
    isSecret: true,
    body: claimHouseSchema,
    response: youSchema,
    prepare: ({ body, services }) => proveClaim(body, services),
    handle: ({ prepared, context, services, write }) => claimHouse(prepared, context, services.now(), write),
  }),
  route({
    method: 'get',
    path: '/api/verify',
    summary: 'Walk the chain of events and compute every edition anew from its lock',
    act: 'exportHouse',
    doing: 'verify the history',
    response: verifyReportSchema,
    handle: async ({ actor, services: { database, work } }) => {
      const editions = []
      // Computed in a thread: a large house takes minutes, and nobody waits for them.
      const lock: LockEdition = async (chapters, book) => readLock(await work.run(actor.name, LOCK, { chapters, book }))
      for await (const report of verifyEditions(database.db, lock)) editions.push(report)
      return { ...(await verifyChain(database.db)), editions }
    },
  }),
]
