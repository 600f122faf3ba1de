/** The house in memory: never behind what was acknowledged, whoever writes, and however many at once. */

import { houseFileSchema, type ShelfPart } from '@conch/contract'
import type { Lot } from '@conch/core/lots'
import { sql } from 'drizzle-orm'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { type OpenDatabase, openPostgres } from '../database/index.ts'
import { DEMO } from '../database/paths.ts'
import { usualPours } from '../database/schema.ts'
import { readHouseFolder } from '../readHouseFolder.ts'
import { insertPerson } from '../stores/people.ts'
import { heldAndStored, staleAnswers } from './keptAnswers.ts'
import { BACKENDS, openFresh, TestServer } from './testServer.ts'

const NOW = new Date('2026-09-01T20:00:00Z')

describe.each(BACKENDS)('the house in memory on %s', (backend) => {
  /** Every process that serves this house: one on the embedded database, two on a PostgreSQL server. */
  const servers: TestServer[] = []
  let first: OpenDatabase
  beforeAll(async () => {
    first = await openFresh(backend)
    const one = new TestServer(first, () => NOW)
    await one.demo(houseFileSchema.parse(readHouseFolder(DEMO, NOW)))
    servers.push(one)
    const { place } = first
    if (place && 'url' in place) servers.push(new TestServer(await openPostgres(place.url), () => NOW))
    // Whoever asks is met before anything is counted on.
    for (const server of servers) for (const as of ['manager', 'bartender']) await server.header({ as })
    for (const server of servers) server.services.held.forget()
  })
  afterAll(async () => {
    for (const server of servers) {
      await server.services.work.close()
      await server.database.close()
    }
  })

  const part = async (server: TestServer, slug: string) => (await server.get<ShelfPart>(`/api/shelf?of=${slug}`)).body

  /** Changes a bottle on the revision that it has now. @returns the revision afterwards */
  async function change(server: TestServer, slug: string, note: string): Promise<number> {
    for (;;) {
      const { ingredients, revisions } = await part(server, slug)
      const document = { ...ingredients.find((i) => i.slug === slug), note }
      const answer = await server.send<{ revision: number }>('PUT', `/api/ingredients/${slug}`, {
        document,
        revision: revisions[slug],
      })
      if (answer.status === 200) return answer.body.revision
      expect(answer.problem.code).toBe('conflict')
    }
  }

  it('shows whoever was told that it is saved what they saved, on every process', async () => {
    for (let i = 0; i < 6; i++) {
      const writer = servers[i % servers.length] as TestServer
      const revision = await change(writer, 'orlop-white', `word ${i}`)
      for (const reader of servers) {
        const { revisions, ingredients } = await part(reader, 'orlop-white')
        expect(revisions['orlop-white']).toBe(revision)
        expect(ingredients.find((x) => x.slug === 'orlop-white')?.note).toBe(`word ${i}`)
      }
    }
  })

  it('is what is in the database after many have written at once, and so is every kept answer', async () => {
    const bottles = ['orlop-white', 'tamber-light', 'weirkeeper-pot', 'brackwater']
    const at = (i: number) => servers[i % servers.length] as TestServer
    const flight = { scores: ['orlop-white', 'brackwater'].map((ingredient) => ({ ingredient, style: { weight: 3 } })) }
    const writes = Array.from({ length: 8 }, (_, i) => [
      () => change(at(i), bottles[i % bottles.length] ?? '', `many ${i}`),
      () => at(i).send('POST', '/api/lots', { ingredient: i % 2 ? 'lime-juice' : 'grenadine' }),
      () => at(i).send('POST', '/api/flights', { document: flight }, { called: `Taster ${i}` }),
      () => at(i).send('POST', '/api/drinks', { name: `At once ${i}` }),
      () => at(i).get('/api/shelf?shown=all'),
      () => at(i).get('/api/drinks'),
    ]).flat()
    await Promise.all(writes.map((write) => write()))
    const made = (await at(0).send<Lot>('POST', '/api/lots', { ingredient: 'lime-juice' })).body
    await Promise.all(servers.map((s) => s.send('POST', `/api/lots/${made.id}/events`, { event: { kind: 'usedUp' } })))
    for (const server of servers) {
      const [held, stored] = await heldAndStored(server)
      expect(held).toEqual(stored)
      expect(await staleAnswers(server)).toEqual([])
    }
  })

  it('keeps nothing that was read before it was told to forget', async () => {
    const [{ services, database }] = servers as [TestServer]
    for (let pause = 0; pause < 24; pause++) {
      services.held.forget()
      const early = services.held.now()
      for (let i = 0; i < pause; i++) await database.db.execute(sql`select 1`)
      const person = await insertPerson(database.db, { name: `Late ${pause}`, role: 'bartender' })
      services.held.forget()
      const asked = services.held.now()
      await early
      expect((await asked).person(person?.id ?? 0)?.name).toBe(`Late ${pause}`)
    }
    for (const server of servers) server.services.held.forget()
  })

  it('told to forget while somebody waits, answers them all the same', async () => {
    const [{ services }] = servers as [TestServer]
    services.held.forget()
    const asked = services.held.now()
    services.held.forget()
    expect((await asked).ingredient('orlop-white')?.slug).toBe('orlop-white')
  })

  it('takes over a table of bottles and a bottle of it, changed before anybody looked', async () => {
    const [writer, reader] = [servers[0], servers.at(-1)] as [TestServer, TestServer]
    await reader.services.held.now()
    const csv = 'name,strength,price\nEbb Table Rum,41,19\nOrlop White,40,18.5\n'
    const { status, body } = await writer.send<object>('POST', '/api/ingredients.csv', { csv, mode: 'whole' })
    expect({ status, body }).toMatchObject({ status: 200, body: { made: 1, changed: 1, saved: true } })
    const revision = await change(writer, 'ebb-table-rum', 'after the table')
    const { ingredients, revisions } = await part(reader, 'ebb-table-rum')
    expect(ingredients.find((i) => i.slug === 'ebb-table-rum')).toMatchObject({ price: 19, note: 'after the table' })
    expect(revisions['ebb-table-rum']).toBe(revision)
    const [held, stored] = await heldAndStored(reader)
    expect(held).toEqual(stored)
  })

  it('counts what is usual once, however many count at the same time', async () => {
    const [server] = servers as [TestServer]
    await server.services.usual.count()
    const count = () => server.database.db.select().from(usualPours).orderBy(usualPours.ingredient, usualPours.drink)
    const before = await count()
    expect(before.length).toBeGreaterThan(20)
    await Promise.all(servers.map((s) => s.services.usual.count()))
    for (let i = 0; i < 4; i++) {
      const pours = [{ ingredient: 'lime-juice', amount: { value: 0.5 + i / 4, unit: 'oz' as const } }]
      const { slug } = await server.drinkWithVersion(`Counted ${i}`, { pours, glass: 'courtyard-tall' })
      await Promise.all(servers.map((s) => s.services.usual.count()))
      const rows = (await count()).filter((r) => r.drink === slug)
      expect(rows).toMatchObject([{ ingredient: 'lime-juice' }])
    }
    expect((await count()).filter((r) => !r.drink.startsWith('counted-'))).toEqual(before)
  })

  it('is as before when a write is refused at its end', async () => {
    const [server] = servers as [TestServer]
    const before = await server.services.held.now()
    const was = JSON.stringify(before.ingredient('orlop-white'))
    const { ingredients, revisions } = await part(server, 'orlop-white')
    const document = { ...ingredients.find((i) => i.slug === 'orlop-white'), note: 'too late' }
    const stale = { document, revision: (revisions['orlop-white'] ?? 1) - 1 }
    expect((await server.send('PUT', '/api/ingredients/orlop-white', stale)).status).toBe(409)
    expect(JSON.stringify((await server.services.held.now()).ingredient('orlop-white'))).toBe(was)
  })

  it('finds by any name, by beginnings, and with a slip of the finger; what was renamed, by both names', async () => {
    const [server] = servers as [TestServer]
    const found = async (words: string) => {
      const { picked, isNear } = (await server.get<ShelfPart>(`/api/shelf?words=${encodeURIComponent(words)}&limit=5`))
        .body
      return { first: picked[0], isNear }
    }
    expect(await found('tamb lig')).toEqual({ first: 'tamber-light', isNear: false })
    expect(await found('weirkepper')).toEqual({ first: 'weirkeeper-pot', isNear: true })
    expect(await found('curaçao')).toMatchObject({ first: 'dry-curacao' })
    const { ingredients, revisions } = await part(server, 'marl-gin')
    const gin = ingredients.find((i) => i.slug === 'marl-gin')
    const document = { ...gin, name: 'Breakwater Gin', formerNames: ['Marl Dry Gin'] }
    await server.send('PUT', '/api/ingredients/marl-gin', { document, revision: revisions['marl-gin'] })
    expect(await found('breakwater')).toMatchObject({ first: 'marl-gin' })
    expect(await found('marl')).toMatchObject({ first: 'marl-gin' })
    expect((await server.get<ShelfPart>('/api/shelf?words=xqzzt')).body).toMatchObject({ picked: [], total: 0 })
  })
})
