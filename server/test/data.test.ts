/** Data that was made elsewhere or earlier: the demo house, old data directories, the shipped template, the documents. */

import { mkdtempSync, readdirSync, readFileSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { brotliDecompressSync } from 'node:zlib'
import { type Edition, houseFileSchema, type Lineage, type VerifyReport } from '@conch/contract'
import { jsonSchemas } from '@conch/contract/jsonSchemas'
import { METHODS } from '@conch/core/cold'
import { PGlite } from '@electric-sql/pglite'
import { afterEach, describe, expect, it } from 'vitest'
import { copyJsonSchema } from '../copy/copyJsonSchema.ts'
import { openPglite } from '../database/index.ts'
import { DEMO, SERVER_ROOT } from '../database/paths.ts'
import { beginOlderHouse } from '../events/beginOlderHouse.ts'
import { readHouseFolder } from '../readHouseFolder.ts'
import { openFresh, TestServer } from './testServer.ts'

const FIXTURES = join(import.meta.dirname, 'fixtures')
/** Its beginning was hashed over documents as they were read that day, not as they are stored: nobody can say it again. */
const HASHED_AS_READ = 'demo-after-0007.tar.br'
const directories: string[] = []
const newDirectory = () => {
  const directory = mkdtempSync(join(tmpdir(), 'conch-data-'))
  directories.push(directory)
  return directory
}
afterEach(() => {
  for (const directory of directories.splice(0)) rmSync(directory, { recursive: true, force: true })
})
const demo = () => houseFileSchema.parse(readHouseFolder(DEMO))

describe('the demo house', () => {
  it('comes in through the import, with every method and two editions whose figures differ', async () => {
    const server = new TestServer(await openFresh('pglite'))
    expect(await server.demo(demo())).toEqual({
      drinks: 14,
      versions: 33,
      editions: 2,
    })
    const sweetness = async (edition: number) => {
      const { lock } = (await server.get<Edition>(`/api/editions/${edition}`)).body
      const bell = lock.chapters.flatMap((c) => c.drinks).find((d) => d.drink === 'low-water-bell')
      return bell?.byWell.hearth?.result.predictions.sweetGPer100Ml?.value ?? 0
    }
    // The first edition was locked with the orgeat as it was then.
    expect(Math.abs((await sweetness(1)) - (await sweetness(2)))).toBeGreaterThan(0.3)
    await server.database.close()
  })

  it('pours by every method, and says which drinks are the strong, the flowering and the overflowing one', () => {
    const methods = new Set(
      demo().drinks.flatMap((d) => d.versions.flatMap((v) => v.document.stages.map((s) => s.method))),
    )
    expect([...methods].sort()).toEqual(Object.keys(METHODS).sort())
    expect(demo().drinks.filter((d) => d.versions.length > 1)).toHaveLength(8)
    expect(demo().drinks.some((d) => d.versions.some((v) => v.document.garnish.some((g) => !g.isFood)))).toBe(true)
  })
})

describe('an old data directory', () => {
  it.each(readdirSync(FIXTURES).filter((f) => f.endsWith('.tar.br')))(
    '%s opens, migrates, shows its editions and lineages, and its history is what was written',
    async (file) => {
      const directory = newDirectory()
      const tar = brotliDecompressSync(readFileSync(join(FIXTURES, file)))
      const client = await PGlite.create({
        dataDir: join(directory, 'database'),
        loadDataDir: new Blob([new Uint8Array(tar)]),
      })
      await client.close()
      const server = new TestServer(await openPglite(directory))
      const edition = (await server.get<Edition>('/api/editions/2')).body
      expect(edition).toMatchObject({ name: 'Last summer', drinkCount: 12 })
      expect((await server.get('/api/drinks/low-water-bell')).status).toBe(200)
      // What was written before there were kinds, sources and decisions is what it was, and reads on.
      const { versions, decisions } = (await server.get<Lineage>('/api/drinks/low-water-bell/lineage')).body
      expect(versions.map((v) => v.parents)).toEqual([
        [],
        ...[1, 2, 3, 3].map((version) => [{ drink: 'low-water-bell', version }]),
      ])
      expect(Array.isArray(decisions)).toBe(true)
      await beginOlderHouse(server.services)
      const { problems } = (await server.get<VerifyReport>('/api/verify')).body
      expect(problems.filter((p) => file !== HASHED_AS_READ || !p.includes('beginning (event 1)'))).toEqual([])
      await server.database.close()
    },
  )

  it('is there for the schema as it is now', () => {
    const steps = readdirSync(join(SERVER_ROOT, 'database/migrations')).filter((f) => f.endsWith('.sql')).length
    expect(readdirSync(FIXTURES)).toContain(`demo-after-${String(steps).padStart(4, '0')}.tar.br`)
  })
})

describe('a data directory', () => {
  it('keeps what was saved when it is closed and opened again', async () => {
    const directory = newDirectory()
    const first = new TestServer(await openPglite(directory))
    await first.setUp('Twice Opened')
    await first.database.close()
    const second = new TestServer(await openPglite(directory))
    expect((await second.get<{ settings: { name: string } }>('/api/house')).body.settings.name).toBe('Twice Opened')
    await second.database.close()
  })

  it('is refused to a second opener with who has it', async () => {
    const directory = newDirectory()
    const first = await openPglite(directory)
    await expect(openPglite(directory)).rejects.toThrow(new RegExp(`is open in process ${process.pid} on `))
    await first.close()
    const again = await openPglite(directory)
    await again.close()
  })
})

describe('the documents', () => {
  it.each(Object.entries({ ...jsonSchemas(), 'copy.schema.json': copyJsonSchema() }))(
    'docs/%s is what the server checks with (npm run docs writes it)',
    (file, schema) => {
      expect(JSON.parse(readFileSync(join(SERVER_ROOT, '../docs', file), 'utf8'))).toEqual(
        JSON.parse(JSON.stringify(schema)),
      )
    },
  )

  it('the examples in docs/formats.md are valid and compute', async () => {
    const text = readFileSync(join(SERVER_ROOT, '../docs/formats.md'), 'utf8')
    const examples = [...text.matchAll(/```json drink\n([\s\S]*?)```/g)].map((m) => m[1] as string)
    expect(examples.length).toBeGreaterThan(1)
    const mixes = [...text.matchAll(/```json mix\n([\s\S]*?)```/g)].map((m) => m[1] as string)
    expect(mixes.length).toBeGreaterThan(0)
    const slots = [...text.matchAll(/```json slot\n([\s\S]*?)```/g)].map((m) => JSON.parse(m[1] as string))
    expect(slots.length).toBeGreaterThan(0)
    const server = new TestServer(await openFresh('pglite'))
    await server.demo(demo())
    for (const document of slots)
      expect((await server.send('PUT', `/api/slots/${document.slug}`, { document, revision: 0 })).status).toBe(200)
    for (const example of examples) expect((await server.send('POST', '/api/preview', example)).status).toBe(200)
    for (const mix of mixes) {
      const document = JSON.parse(mix)
      const made = await server.send('PUT', `/api/ingredients/${document.slug}`, { document, revision: 0 })
      expect(made.status).toBe(200)
    }
    await server.database.close()
  })
})
