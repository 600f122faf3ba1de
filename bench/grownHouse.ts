/** A house that grew for years: how long its copy takes, how long it takes to come back, with how much memory. */

import { spawn } from 'node:child_process'
import { createHash } from 'node:crypto'
import { createReadStream, createWriteStream, mkdtempSync, rmSync, statSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { Readable } from 'node:stream'
import { pipeline } from 'node:stream/promises'
import { houseFileSchema } from '@conch/contract'
import { NOBODY } from '../server/access/actor.ts'
import { type OpenDatabase, openPglite, openPostgres } from '../server/database/index.ts'
import { DEMO } from '../server/database/paths.ts'
import { inWrite } from '../server/events/index.ts'
import { importHouseFile } from '../server/features/transfer/importHouseFile.ts'
import { readHouseFolder } from '../server/readHouseFolder.ts'
import startPostgres from '../server/test/postgres.ts'
import { type Growth, growHouse } from '../server/testing/growHouse.ts'
import { letIn, measured } from '../server/testing/letIn.ts'
import { benchServed } from './grownServed.ts'
import { memoryMbOf, serve } from './served.ts'

const GROWTH: Growth = {
  seed: 7,
  drinks: 10_000,
  versions: 10,
  lots: 50_000,
  openLots: 3_000,
  flights: 20_000,
  editions: 38,
  shelf: { bottles: 5_000, mixes: 2_000 },
}
const DIST = join(DEMO, '../server/dist')
const MAIN = join(DIST, 'main.js')

/** Fills an empty database with a house that grew, and closes it. */
async function grow(database: OpenDatabase): Promise<void> {
  const now = () => new Date('2026-09-01T12:00:00Z')
  const write = (work: Parameters<typeof inWrite>[2]) => inWrite(database, { actor: NOBODY, now }, work)
  await write((w) => importHouseFile(houseFileSchema.parse(readHouseFolder(DEMO, now())), { isDemo: true }, w))
  await growHouse(database.db, GROWTH)
  await beginAnew(database)
  await write(async ({ record }) => record({ kind: 'house', subject: 'history', verb: 'began', isBeginning: true }))
  await letIn(database.db, new Date())
  await database.maintain()
  await database.close()
}

/** Sign-ins are in no copy. */
async function letInto(directory: string): Promise<void> {
  const database = await openPglite(directory)
  await letIn(database.db, new Date())
  await database.close()
}

/** It grew behind the chain's back: the chain begins behind it. */
async function beginAnew({ db }: OpenDatabase): Promise<void> {
  await db.execute('alter table events disable trigger user')
  await db.execute('delete from events')
  await db.execute("update chain_head set sequence = 0, hash = ''")
  await db.execute('alter table events enable trigger user')
}

async function takeCopy(url: string, file: string): Promise<number> {
  const startedAt = performance.now()
  const response = await fetch(`${url}/api/export`, { headers: { ...measured(url), 'accept-encoding': 'identity' } })
  await pipeline(Readable.fromWeb(response.body as never), createWriteStream(file))
  return performance.now() - startedAt
}

/** How long others wait for the plan of the menu while something heavy is under way, ms, the slowest. */
async function waitingWhile(url: string, work: Promise<unknown>): Promise<number> {
  let isOver = false
  let slowest = 0
  void work.finally(() => {
    isOver = true
  })
  while (!isOver) {
    const startedAt = performance.now()
    await (await fetch(`${url}/api/menu`, { headers: measured(url) })).arrayBuffer()
    slowest = Math.max(slowest, performance.now() - startedAt)
    await new Promise((r) => setTimeout(r, 25))
  }
  return slowest
}

async function restore(directory: string, file: string): Promise<{ tookMs: number; memoryMb: number }> {
  const env = { ...process.env, CONCH_DATA: directory, DATABASE_URL: '' }
  const startedAt = performance.now()
  const child = spawn(process.execPath, [join(DIST, 'restore.js'), file], {
    env,
    stdio: ['ignore', 'ignore', 'inherit'],
  })
  let memoryMb = 0
  const look = setInterval(() => {
    try {
      memoryMb = Math.max(memoryMb, memoryMbOf(child.pid) || 0)
    } catch {
      // It ended in between.
    }
  }, 200)
  const code = await new Promise((resolve) => child.on('exit', resolve))
  clearInterval(look)
  if (code !== 0) throw new Error(`the restore ended with ${code}`)
  return { tookMs: performance.now() - startedAt, memoryMb }
}

async function hashOfFile(file: string): Promise<string> {
  const hash = createHash('sha256')
  for await (const chunk of createReadStream(file)) hash.update(chunk as Buffer)
  return hash.digest('hex')
}

const seconds = (ms: number) => `${(ms / 1000).toFixed(1)} s`

/** @param say takes a row of figures */
export async function benchGrownHouse(say: (what: string, figure: string, aim?: string) => void): Promise<void> {
  const root = mkdtempSync(join(tmpdir(), 'conch-grown-'))
  const [first, second] = [join(root, 'first'), join(root, 'second')]
  const [one, two] = [join(root, 'one.ndjson'), join(root, 'two.ndjson')]
  try {
    await grow(await openPglite(first))
    const server = await serve(MAIN, { directory: first, port: 48_100 })
    const copying = takeCopy(server.url, one)
    const slowestMs = await waitingWhile(server.url, copying)
    const size = `${(statSync(one).size / 1e6).toFixed(0)} MB`
    const versions = GROWTH.drinks * GROWTH.versions
    say(`a house of ${versions.toLocaleString('en')} versions: server ready`, seconds(server.readyMs), 'under 3 s')
    say(
      `its copy (${size}), taken from the running server`,
      `${seconds(await copying)}, ${server.memoryMb()} MB at most`,
    )
    say('the slowest of the others who asked for the plan meanwhile', `${slowestMs.toFixed(0)} ms`)
    await server.stop()
    const restored = await restore(second, one)
    say(
      'the same copy restored from the command line, checked whole',
      `${seconds(restored.tookMs)}, ${restored.memoryMb} MB at most`,
    )
    await letInto(second)
    const again = await serve(MAIN, { directory: second, port: 48_101 })
    await takeCopy(again.url, two)
    await again.stop()
    const isSame = (await hashOfFile(one)) === (await hashOfFile(two))
    say('the copy of the restored house, against the first', isSame ? 'the same to the byte' : 'ANOTHER')
  } finally {
    rmSync(root, { recursive: true, force: true })
  }
}

type Say = (what: string, figure: string, aim?: string) => void

/** The same house served by the embedded database. */
export async function benchEmbedded(say: Say): Promise<void> {
  await inDirectory(async (directory) => {
    await grow(await openPglite(directory))
    await benchHouse(say, 'the embedded database', { directory, port: 48_110 })
  })
}

/** The same house served by a PostgreSQL server. */
export async function benchPostgresql(say: Say): Promise<void> {
  await inDirectory((directory) =>
    withPostgres(async (databaseUrl) => {
      await grow(await openPostgres(databaseUrl))
      await benchHouse(say, 'PostgreSQL', { directory, databaseUrl, port: 48_111 })
    }),
  )
}

async function benchHouse(say: Say, on: string, where: Parameters<typeof serve>[1]): Promise<void> {
  const server = await serve(MAIN, where)
  say(`the grown house on ${on}: server ready`, seconds(server.readyMs), 'under 3 s')
  await benchServed(say, server)
  await server.stop()
}

async function inDirectory(work: (directory: string) => Promise<void>): Promise<void> {
  const root = mkdtempSync(join(tmpdir(), 'conch-served-'))
  try {
    await work(join(root, 'house'))
  } finally {
    rmSync(root, { recursive: true, force: true })
  }
}

/** A PostgreSQL server of its own, as the tests have one. */
export async function withPostgres(work: (url: string) => Promise<void>): Promise<void> {
  let url = ''
  const provide = (_: string, value: string) => {
    url = value
  }
  const stop = startPostgres({ provide } as never)
  try {
    await work(url)
  } finally {
    stop()
  }
}
