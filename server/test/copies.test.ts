/** Copies come back: whole, to the byte, on both databases; what is broken is refused with its line. */

import { createHash } from 'node:crypto'
import { existsSync, mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { gunzipSync, gzipSync } from 'node:zlib'
import { houseFileSchema } from '@conch/contract'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { NOBODY } from '../access/actor.ts'
import { backUpTonight } from '../backup/backups.ts'
import { readCopy } from '../copy/readCopy.ts'
import { COPIED } from '../copy/tables.ts'
import { writeCopy } from '../copy/writeCopy.ts'
import { openPglite } from '../database/index.ts'
import { DEMO } from '../database/paths.ts'
import * as rounds from '../database/roundSchema.ts'
import * as schema from '../database/schema.ts'
import * as tonight from '../database/tonightSchema.ts'
import { inWrite } from '../events/index.ts'
import { readHouseFolder } from '../readHouseFolder.ts'
import { growHouse } from '../testing/growHouse.ts'
import { BACKENDS, openFresh, TestServer } from './testServer.ts'

/** The last line made right for what comes before it: somebody who knows the format changed something. */
function withNewFoot(lines: string[]): string {
  const body = `${lines.join('\n')}\n`
  const sha256 = createHash('sha256').update(body).digest('hex')
  return `${body}${JSON.stringify({ end: 'lazy-conch/copy', lines: lines.length, sha256 })}\n`
}

/** A small, awkward house: what once could not be taken elsewhere, and what no rule of today would let in. */
async function awkwardHouse(server: TestServer): Promise<void> {
  await server.demo(houseFileSchema.parse(readHouseFolder(DEMO, new Date('2026-09-01T12:00:00Z'))))
  await growHouse(server.database.db, { seed: 9, drinks: 20, versions: 5, lots: 60, flights: 20, editions: 2 })
  await server.saveDraft('tide-clerk', { name: 'Tide Clerk', pours: [{ figures: { abvPct: 40 }, volumeMl: 50 }] }, 0)
  await server.saveDraft(
    'tide-clerk',
    { name: 'Tide Clerk', pours: [{ figures: { abvPct: 41 }, volumeMl: 50 }] },
    1,
    'Lead',
  )
  await server.send('POST', '/api/drinks', { name: 'Begun' })
}

describe.each(BACKENDS)('a copy on %s', (backend) => {
  let server: TestServer
  let copy: string
  let lines: string[]
  beforeAll(async () => {
    server = new TestServer(await openFresh(backend))
    await awkwardHouse(server)
    // Grown behind the chain's back: it begins anew with all of it, as a house from before there was a chain.
    await server.database.db.execute('alter table events disable trigger user')
    await server.database.db.execute('delete from events')
    await server.database.db.execute("update chain_head set sequence = 0, hash = ''")
    await server.database.db.execute('alter table events enable trigger user')
    await inWrite(server.database, { actor: NOBODY, now: server.services.now }, async ({ record }) =>
      record({ kind: 'house', subject: 'history', verb: 'began', isBeginning: true }),
    )
    copy = await server.copy()
    lines = copy.trimEnd().split('\n')
  })
  afterAll(() => server.database.close())

  const bring = async (text: string | Uint8Array, type?: string) => {
    const other = new TestServer(await openFresh(backend))
    return { other, state: await other.bring(text, type) }
  }

  /** All that is refused is sent to one house: it must stay empty. */
  let empty: TestServer
  beforeAll(async () => {
    empty = new TestServer(await openFresh(backend))
  })
  afterAll(() => empty.database.close())
  async function expectRefused(text: string, reason: RegExp): Promise<void> {
    const state = await empty.bring(text)
    expect(state.state).toBe('refused')
    expect(state.problem?.detail).toMatch(reason)
    for (const { table, name } of COPIED)
      expect(`${name}: ${(await empty.database.db.select().from(table)).length}`).toBe(`${name}: 0`)
  }

  it('holds every table of the database but the answers kept for repeated requests, the keys of open tastings, and what follows from the others', () => {
    const all = Object.values({ ...schema, ...tonight, ...rounds })
      .filter((t) => typeof t === 'object' && t !== null && Symbol.for('drizzle:Name') in t)
      .map((t) => (t as unknown as Record<symbol, string>)[Symbol.for('drizzle:Name')])
    const left = ['kept_answers', 'chain_head', 'tasting_keys', 'kept_glasses', 'kept_up_to', 'usual_pours']
    expect([...COPIED.map((t) => t.name), ...left].sort()).toEqual(all.sort())
  })

  it('comes back whole, and taken again it is the same to the byte', async () => {
    const { other, state } = await bring(copy)
    expect(state).toMatchObject({ state: 'done', came: { versions: 33 + 100, editions: 4 } })
    expect(await other.copy()).toBe(copy)
    // It goes on behind where it was: nothing gets a number that was given.
    const lots = (await other.get<{ rows: { id: number }[] }>('/api/lots')).body.rows
    const made = await other.send<{ id: number }>('POST', '/api/lots', { ingredient: 'lime-juice' })
    expect(made.body.id).toBeGreaterThan(Math.max(...lots.map((l) => l.id)))
    expect((await other.get('/api/verify')).body).toMatchObject({ problems: [] })
    await other.database.close()
  })

  it('packed, too', async () => {
    const { other, state } = await bring(gzipSync(copy), 'application/gzip')
    expect(state.state).toBe('done')
    expect(await other.copy()).toBe(copy)
    await other.database.close()
  })

  it('lets others have their turn while it is written', async () => {
    let turns = 0
    let isWritten = false
    const beat = () => {
      turns += 1
      if (!isWritten) setImmediate(beat)
    }
    setImmediate(beat)
    for await (const _ of writeCopy(server.database.db));
    isWritten = true
    const pages = COPIED.filter((t) => t.grows && lines.some((l) => l.startsWith(`{"table":"${t.name}"`))).length
    expect(turns).toBeGreaterThan(pages)
  })

  it('goes into an empty house only', async () => {
    expect((await server.bring(copy)).problem).toMatchObject({ status: 409, code: 'exists' })
  })

  it.each<[string, (lines: string[]) => string, RegExp]>([
    ['cut short', (l) => `${l.slice(0, 200).join('\n')}\n`, /^line 200: the copy ends here without its last line/],
    ['cut within a line', (l) => l.join('\n').slice(0, -300), /^line \d+: (is not JSON|is not the end)/],
    [
      'with a wrong hash',
      (l) => [...l.slice(0, -1), l.at(-1)?.replace(/[0-9a-f]{64}/, '0'.repeat(64))].join('\n'),
      /^line \d+: the hash over all lines is another: something was changed$/,
    ],
    [
      'with one document changed',
      (l) => l.join('\n').replace('"version 2"', '"version 3"'),
      /the hash over all lines is another/,
    ],
    [
      'with one document changed and the hash made right',
      (l) => withNewFoot(l.slice(0, -1).map((x) => x.replace('"note":"version 2"', '"note":"version 3"'))),
      /^its chain of events does not hold: what was there at the beginning \(event 1\) was changed/,
    ],
    [
      'with an event changed and the hash made right',
      (l) => withNewFoot(l.slice(0, -1).map((x) => x.replace('"verb":"began"', '"verb":"setUp"'))),
      /^its chain of events does not hold: event 1 does not hold what its hash was made of/,
    ],
    [
      'with a row left out',
      (l) => withNewFoot(l.filter((x) => !x.includes('"slug":"quay-tumbler"')).slice(0, -1)),
      /^line 1: \d+ rows of glasses should follow; there are \d+$/,
    ],
    [
      'from a newer program',
      (l) => [l[0]?.replace(/"schemaStep":\d+/, '"schemaStep":999'), ...l.slice(1)].join('\n'),
      /^line 1: it is of a newer Lazy Conch \(step 999, this one has \d+\): bring it up to date$/,
    ],
    [
      'in a newer format',
      (l) => [l[0]?.replace('"formatVersion":1', '"formatVersion":2'), ...l.slice(1)].join('\n'),
      /^line 1: it is written in format 2; this Lazy Conch knows up to 1/,
    ],
    [
      'with a row that has another form',
      (l) => l.map((x) => (x.includes('"table":"glasses"') ? x.replace('"position":', '"place":') : x)).join('\n'),
      /^line \d+: a row of glasses:/,
    ],
    [
      'with a table nobody knows',
      (l) => [l[0], '{"table":"secrets","row":{}}', ...l.slice(1)].join('\n'),
      /^line 2: there is nothing called “secrets” in a house$/,
    ],
    ['that is no copy at all', () => 'hello\n', /neither a copy nor a house file/],
    ['that is empty', () => '', /^line 1: the file is empty$/],
  ])('%s is refused with line and reason, and nothing of it is in', async (_what, change, reason) => {
    await expectRefused(change(lines), reason)
  })

  it('of a reference to what is not there is refused, by line', async () => {
    const at = lines.findIndex((l) => l.includes('"table":"versions"'))
    const changed = lines.map((l, i) => (i === at ? l.replace(/"drink":"[^"]+"/, '"drink":"ghost"') : l))
    const reason = /^line \d+: Key \(drink\)=\(ghost\) is not present in table "drinks"/
    await expectRefused(withNewFoot(changed.slice(0, -1)), reason)
  })

  it('that somebody thought better of leaves nothing', async () => {
    async function* given() {
      yield* lines
    }
    const { db } = empty.database
    let asked = 0
    const reading = db.transaction((tx) => readCopy(tx, given(), { isCancelled: () => ++asked > 1 }))
    await expect(reading).rejects.toThrow('it was cancelled; nothing came in')
    await expectRefused('', /^line 1: the file is empty$/)
  })

  it('of a house file of before comes in as it was, with limits that are no longer', async () => {
    const file = readHouseFolder(DEMO, new Date('2026-09-01T12:00:00Z'))
    const [lot] = file.lots ?? []
    const events = Array.from({ length: 101 }, () => ({
      at: '2026-08-31T12:00:00Z',
      by: 'Lead',
      event: { kind: 'labelled', copies: 1 },
    }))
    const awkward = {
      ...file,
      lots: [{ ...lot, factor: 5000, events }, ...(file.lots ?? []).slice(1)],
      drinks: file.drinks.map((d) => ({
        ...d,
        versions: d.versions.map((v) => ({ ...v, document: { ...v.document, note: 'x'.repeat(3000) } })),
      })),
    }
    const { other, state } = await bring(JSON.stringify(awkward), 'application/json')
    expect(state).toMatchObject({ state: 'done', came: { drinks: 14, versions: 33 } })
    await other.database.close()
  })
})

describe('a copy of one database', () => {
  it('comes back in the other', async () => {
    const pglite = new TestServer(await openFresh('pglite'))
    await awkwardHouse(pglite)
    await pglite.database.db.execute('alter table events disable trigger user')
    await pglite.database.db.execute('delete from events')
    await pglite.database.db.execute("update chain_head set sequence = 0, hash = ''")
    await inWrite(pglite.database, { actor: NOBODY, now: pglite.services.now }, async ({ record }) =>
      record({ kind: 'house', subject: 'history', verb: 'began', isBeginning: true }),
    )
    const copy = await pglite.copy()
    const postgres = new TestServer(await openFresh('postgresql'))
    expect(await postgres.bring(copy)).toMatchObject({ state: 'done' })
    expect(await postgres.copy()).toBe(copy)
    await pglite.database.close()
    await postgres.database.close()
  })
})

describe('in a data directory', () => {
  const directories: string[] = []
  const newDirectory = () => {
    const directory = mkdtempSync(join(tmpdir(), 'conch-copies-'))
    directories.push(directory)
    return directory
  }
  afterAll(() => {
    for (const directory of directories) rmSync(directory, { recursive: true, force: true })
  })

  it('a house is filled and checked beside the empty one, and swapped in; a broken one leaves it empty', async () => {
    const source = new TestServer(await openFresh('pglite'))
    await source.demo(houseFileSchema.parse(readHouseFolder(DEMO, new Date('2026-09-01T12:00:00Z'))))
    const copy = await source.copy()
    const directory = newDirectory()
    const server = new TestServer(await openPglite(directory))
    expect((await server.bring(copy.slice(0, 5000))).state).toBe('refused')
    expect((await server.get('/api/ready', { as: '' })).body).toMatchObject({ isSetUp: false })
    expect(await server.bring(copy)).toMatchObject({ state: 'done' })
    expect(await server.copy()).toBe(copy)
    await server.database.close()
    expect(readdirSync(directory).filter((f) => /incoming|old|upload/.test(f))).toEqual([])
    // And it is there when the directory is opened again.
    const again = new TestServer(await openPglite(directory))
    expect(await again.copy()).toBe(copy)
    await again.database.close()
    await source.database.close()
  })

  it('back-ups are dated by the house’s night, whole, made once a night, and kept for so many days', async () => {
    const directory = newDirectory()
    const server = new TestServer(await openPglite(directory))
    await server.demo(houseFileSchema.parse(readHouseFolder(DEMO, new Date('2026-09-01T12:00:00Z'))))
    const folder = join(directory, 'backups')
    const at = (moment: string) => backUpTonight(server.database, directory, new Date(moment))
    // Half past one in the morning is still the night before.
    expect(await at('2026-11-10T01:30:00Z')).toBe(join(folder, 'house-2026-11-09.ndjson.gz'))
    expect(await at('2026-11-10T05:30:00Z')).toBeUndefined()
    const kept = gunzipSync(readFileSync(join(folder, 'house-2026-11-09.ndjson.gz'))).toString()
    expect(kept).toBe(await server.copy())
    writeFileSync(join(folder, 'mine.txt'), 'not a back-up')
    await at('2026-11-22T20:00:00Z')
    expect(readdirSync(folder).sort()).toEqual(['house-2026-11-09.ndjson.gz', 'house-2026-11-22.ndjson.gz', 'mine.txt'])
    await at('2026-11-23T20:00:00Z')
    expect(existsSync(join(folder, 'house-2026-11-09.ndjson.gz'))).toBe(false)
    expect(existsSync(join(folder, 'mine.txt'))).toBe(true)
    await server.database.close()
  })
})
