/** The examples of the tour through the house: what stands there is what runs here. */

import { existsSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import { houseFileSchema } from '@conch/contract'
import { computeDrink, resolveDrink, standingOf } from '@conch/core/drink'
import { drinkDocumentSchema } from '@conch/core/drink/schema'
import { resolveHouse } from '@conch/core/formula'
import { desc } from 'drizzle-orm'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { DEMO } from '../database/paths.ts'
import { events } from '../database/schema.ts'
import { readHouseFolder } from '../readHouseFolder.ts'
import { openFresh, TestServer } from './testServer.ts'

const NOW = new Date('2026-09-01T20:00:00Z')

describe('the tour', () => {
  let server: TestServer
  beforeAll(async () => {
    server = new TestServer(await openFresh('pglite'), () => NOW)
    await server.demo(houseFileSchema.parse(readHouseFolder(DEMO, NOW)))
  })
  afterAll(async () => {
    await server.services.work.close()
    await server.database.close()
  })

  it('one drink, from the file to the glass', () => {
    // 1. A file is read by its schema: what is not in the format does not come in.
    const file = houseFileSchema.parse(readHouseFolder(DEMO, NOW))
    const drink = file.drinks.find((d) => d.slug === 'low-water-bell')
    const document = drinkDocumentSchema.parse(drink?.versions.at(-1)?.document)

    // 2. The shelf is resolved: every mix gets the figures that its recipe, or its newest lot, gives it.
    const book = resolveHouse({ ...file, lots: [], flights: [], calibrations: [] }, '2026-09-01')

    // 3. The drink is resolved at a well: amounts become grams and millilitres, stages meet their station.
    const resolved = resolveDrink(document, book, 'hearth')

    // 4. It is computed: before ice, through every stage, in the glass.
    const computed = resolved.ok ? computeDrink(resolved.drink) : resolved
    if (!computed.ok) throw new Error(computed.problems[0]?.message)
    const { strengthPct, dilutionPct } = computed.result.predictions

    // 5. A standard is a band; a prediction stands inside of it, at its edge, or outside.
    const standing = standingOf(strengthPct, document.standard.strengthPct)

    expect(strengthPct?.value).toBeGreaterThan(10)
    expect(dilutionPct?.low).toBeLessThan(dilutionPct?.high ?? 0)
    expect(['inside', 'edge', 'below', 'above', 'open']).toContain(standing)
  })

  it('one write, from the tap to whoever keeps something', async () => {
    const before = await server.services.held.now()
    const bottle = before.ingredient('orlop-white')

    // 1. The tap: a document on the revision that was looked at. An older one is told what stands there now.
    const saved = await server.send('PUT', '/api/ingredients/orlop-white', {
      document: { ...bottle, note: 'the label changed' },
      revision: before.ingredientRevision('orlop-white'),
    })
    expect(saved.status).toBe(200)

    // 2. In the same transaction an event went into the chain, with who and when, hashed with the one before it.
    const [event] = await server.database.db.select().from(events).orderBy(desc(events.sequence)).limit(1)
    expect(event).toMatchObject({ kind: 'ingredient', subject: 'orlop-white', personName: 'Manager' })

    // 3. Whoever keeps something follows the chain: what is held in memory is as of that event …
    const after = await server.services.held.now()
    expect(after.at.sequence).toBe(event?.sequence)
    expect(after.ingredient('orlop-white')?.note).toBe('the label changed')

    // 4. … and a kept answer is made again only where it depends on what the event was about.
    const { status } = await server.get('/api/shelf?of=orlop-white')
    expect(status).toBe(200)
  })

  it('every example in it runs here, word for word', () => {
    const plain = (text: string) =>
      text
        .split('\n')
        .map((line) => line.trim())
        .filter(Boolean)
        .join('\n')
    const tour = readFileSync(join(import.meta.dirname, '../../docs/tour.md'), 'utf8')
    const own = plain(readFileSync(import.meta.filename, 'utf8'))
    const examples = [...tour.matchAll(/```ts\n([\s\S]*?)```/g)].map((m) => plain(m[1] ?? ''))
    expect(examples.length).toBeGreaterThan(5)
    for (const example of examples) expect(own).toContain(example)
    // A path in it leads somewhere.
    const paths = [...tour.matchAll(/`((?:core|contract|server|web|demo|docs|bench|scripts)\/[\w./-]*)`/g)].map(
      (m) => m[1],
    )
    expect(paths.length).toBeGreaterThan(20)
    for (const path of paths)
      expect([path, existsSync(join(import.meta.dirname, '../..', path ?? ''))]).toEqual([path, true])
  })
})
