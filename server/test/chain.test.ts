/** The chain of events: everything that is written stands in it, and a change behind its back is found. */

import { type AuditPage, type Drink, houseFileSchema, type VerifyReport } from '@conch/contract'
import type { Lot } from '@conch/core/lots'
import { type SQL, sql } from 'drizzle-orm'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { NOBODY } from '../access/actor.ts'
import { DEMO } from '../database/paths.ts'
import { HISTORY_TABLES } from '../events/history.ts'
import { inWrite } from '../events/index.ts'
import { verifyChain } from '../events/verify.ts'
import { readHouseFolder } from '../readHouseFolder.ts'
import { growHouse } from '../testing/growHouse.ts'
import { BACKENDS, openFresh, TestServer } from './testServer.ts'

class PutBack extends Error {}

/** Another value than the one that stands there, or any where none does, by the type of the column. */
const OTHER_VALUE: Record<string, (column: ReturnType<typeof sql.identifier>) => SQL> = {
  text: (c) => sql`coalesce(${c}, '') || 'x'`,
  integer: (c) => sql`coalesce(${c}, 0) + 1000000`,
  boolean: (c) => sql`not coalesce(${c}, false)`,
  date: (c) => sql`coalesce(${c}, '2026-01-01'::date) + 1`,
  jsonb: (c) => sql`jsonb_build_array(${c})`,
  'timestamp with time zone': (c) => sql`coalesce(${c}, now()) + interval '1 second'`,
}

describe.each(BACKENDS)('the chain on %s', (backend) => {
  let server: TestServer
  beforeAll(async () => {
    server = new TestServer(await openFresh(backend))
    await server.setUp()
    const drink = await server.drinkWithVersion('Chained')
    await server.publish((await server.plan([{ drink: drink.slug, version: 1 }])).revision)
    const lot = (await server.send<Lot>('POST', '/api/lots', { ingredient: 'lime-juice' })).body
    await server.send('POST', `/api/lots/${lot.id}/events`, { event: { kind: 'usedUp' } })
  })
  afterAll(() => server.database.close())
  const verify = async () => (await server.get<VerifyReport>('/api/verify')).body

  it('names each write once, in order, with who and what, and was and is', async () => {
    const entries = (await server.get<AuditPage>('/api/audit')).body.entries
    expect(entries.map((e) => e.sequence)).toEqual(entries.map((_, i) => entries.length - i))
    expect(entries.map((e) => `${e.kind} ${e.verb}`).reverse()).toEqual([
      'house setUp',
      'drink made',
      'drink versioned',
      'plan changed',
      'edition published',
      'lot made',
      'lot usedUp',
    ])
    expect(entries[3]).toMatchObject({ by: 'Manager', detail: { was: null, is: { chapters: [{ name: 'Long' }] } } })
    expect(JSON.stringify(entries)).not.toContain('salt":"')
  })

  it('leaves drafts out: what is not finished is no event', async () => {
    const before = (await server.get<AuditPage>('/api/audit')).body.entries.length
    const { draft } = await server.createDrink('Unfinished')
    await server.saveDraft(
      'unfinished',
      (await server.get<{ draft: { document: object } }>('/api/drinks/unfinished')).body.draft.document,
      draft?.revision ?? 0,
    )
    expect((await server.get<AuditPage>('/api/audit')).body.entries).toHaveLength(before + 1)
  })

  it('holds, and every edition follows from its lock', async () => {
    expect(await verify()).toMatchObject({
      problems: [],
      editions: [{ number: 1, how: 'recomputed', problems: [] }],
    })
  })

  it('a failed write leaves nothing in it', async () => {
    const { events } = await verify()
    expect((await server.send('POST', '/api/drinks', { name: 'Chained' })).status).toBe(409)
    expect((await verify()).events).toBe(events)
  })

  /** Does something behind the server's back, looks, and undoes it. */
  async function behindItsBack(change: SQL, undo: SQL): Promise<string[]> {
    const { db } = server.database
    await db.execute(sql`set session_replication_role = replica`)
    const quietly = async (what: SQL) => {
      await db.transaction(async (tx) => {
        await tx.execute(sql`set local session_replication_role = replica`)
        await tx.execute(what)
      })
    }
    await db.execute(sql`set session_replication_role = default`)
    await quietly(change)
    const { problems } = await verifyChain(db)
    await quietly(undo)
    expect((await verifyChain(db)).problems).toEqual([])
    return problems
  }

  it.each<[string, SQL, SQL, RegExp]>([
    [
      'a version’s reason',
      sql`update versions set reason = 'another' where drink = 'chained'`,
      sql`update versions set reason = 'a test wants it' where drink = 'chained'`,
      /^versions chained 1 is not what event \d+ wrote: it was changed$/,
    ],
    [
      'one figure of a locked edition',
      sql`update editions set lock = jsonb_set(lock, '{book,settings,standardDrinkG}', '11')`,
      sql`update editions set lock = jsonb_set(lock, '{book,settings,standardDrinkG}', '10')`,
      /^editions 1 is not what event \d+ wrote: it was changed$/,
    ],
    [
      'a lot’s day',
      sql`update lots set made_on = made_on - 1`,
      sql`update lots set made_on = made_on + 1`,
      /^lots \d+ is not what event \d+ wrote/,
    ],
    [
      'an event’s words',
      sql`update events set subject = 'else' where sequence = 3`,
      sql`update events set subject = 'chained' where sequence = 3`,
      /^event 3 does not hold what its hash was made of/,
    ],
    [
      'who did it',
      sql`update events set person_name = 'Nobody' where sequence = 2`,
      sql`update events set person_name = 'Manager' where sequence = 2`,
      /^event 2 does not hold/,
    ],
    [
      'a row that no event names',
      sql`insert into flights (id, tasted_on, document, saved_by, saved_at) values (900, '2026-01-01', '{}', 'X', now())`,
      sql`delete from flights where id = 900`,
      /^what was there at the beginning \(event 1\) was changed, or rows were added/,
    ],
    [
      'a row taken out',
      sql`update lot_events set id = id + 500`,
      sql`update lot_events set id = id - 500`,
      /^(lot_events \[\d+\] of event \d+ is gone|what was there)/,
    ],
  ])('finds a change by hand of %s', async (_what, change, undo, expected) => {
    const problems = await behindItsBack(change, undo)
    expect(problems[0]).toMatch(expected)
  })

  it('finds a change of any column of any table of history', async () => {
    const house = new TestServer(await openFresh(backend))
    await house.demo(houseFileSchema.parse(readHouseFolder(DEMO, new Date('2026-09-01T12:00:00Z'))))
    await growHouse(house.database.db, { seed: 3, drinks: 3, versions: 2, lots: 5, flights: 2, editions: 1 })
    const out = { kind: 'ingredient', of: 'falernum', well: null, level: 'out' }
    const off = { well: null, kind: 'off', words: 'no falernum', sees: null }
    const { id } = (await house.send<{ id: number }>('POST', '/api/outs', out)).body
    const choice = (await house.send<{ id: number }>('POST', '/api/drinks/green-pilot/tonight', off)).body
    await house.send('POST', `/api/tonight/choices/${choice.id}/end`)
    await house.send('POST', `/api/outs/${id}/end`, { why: 'back' })
    const { document } = ((await house.get<Drink>('/api/drinks/green-pilot')).body.versions[0] ?? {}) as {
      document?: object
    }
    const round = {
      ...{ key: 'a'.repeat(32), well: 'hearth', startedAt: '2026-09-01T21:00:00Z', ticks: [], poured: {}, clocks: {} },
      loads: [{ id: 'a', drink: 'green-pilot', version: 1, glasses: 1, document }],
    }
    const parked = (await house.send<{ id: number }>('POST', '/api/rounds', { state: 'parked', round, skipped: [] }))
      .body
    await house.send('POST', `/api/rounds/${parked.id}/end`, { why: 'takenUp' })
    const pours = [1, 2, 3, 4].map((n) => ({ wantedMl: 15, gotMl: 14 + n / 2 }))
    await house.send('POST', '/api/practice', { kind: 'pours', scale: 'simulated', pours })
    const { db } = house.database
    // Grown behind the chain's back: it begins anew with all of it.
    await db.transaction(async (tx) => {
      await tx.execute(sql`set local session_replication_role = replica`)
      await tx.execute(sql`delete from events`)
      await tx.execute(sql`update chain_head set sequence = 0, hash = ''`)
    })
    await inWrite(house.database, { actor: NOBODY, now: house.services.now }, async ({ record }) =>
      record({ kind: 'house', subject: 'history', verb: 'began', isBeginning: true }),
    )
    expect((await verifyChain(db)).problems).toEqual([])
    const rowsOf = async (what: SQL) => ((await db.execute(what)) as unknown as { rows: Record<string, string>[] }).rows
    const columns = await rowsOf(
      sql`select table_name as t, column_name as c, data_type as type from information_schema.columns where table_schema = 'public'`,
    )
    const unseen: string[] = []
    const empty = new Set<string>()
    for (const { t = '', c = '', type = '' } of columns.filter((x) => HISTORY_TABLES.includes(x.t as string))) {
      const other = OTHER_VALUE[type]?.(sql.identifier(c))
      if (!other) throw new Error(`no other value is known for ${t}.${c}, a ${type}`)
      const table = sql.identifier(t)
      await db
        .transaction(async (tx) => {
          await tx.execute(sql`set local session_replication_role = replica`)
          const done = await tx.execute(
            sql`update ${table} set ${sql.identifier(c)} = ${other} where ctid = (select max(ctid) from ${table}) returning 1 as one`,
          )
          if ((done as unknown as { rows: unknown[] }).rows.length === 0) empty.add(t)
          else if ((await verifyChain(tx)).problems.length === 0) unseen.push(`${t}.${c}`)
          throw new PutBack()
        })
        .catch((error: unknown) => {
          if (!(error instanceof PutBack)) throw error
        })
    }
    expect(unseen).toEqual([])
    // What the demo house has nothing of cannot be changed here.
    expect([...empty].filter((t) => t !== 'split_preps')).toEqual([])
    expect((await verifyChain(db)).problems).toEqual([])
    await house.database.close()
  }, 240_000)

  it('knows every table that the database calls history', async () => {
    const found = await server.database.db.execute(
      sql`select event_object_table as name from information_schema.triggers
        where action_statement like '%refuse_history_change%' group by event_object_table`,
    )
    const names = (found as unknown as { rows: { name: string }[] }).rows.map((r) => r.name).sort()
    // Two are no facts of the trade: words that a draft lost, and the chain itself with what stood before it.
    const others = ['audit', 'document_drafts_replaced', 'events']
    expect(names).toEqual([...HISTORY_TABLES, ...others].sort())
  })

  it('each write of the house leaves one event', async () => {
    const house = (await server.house()).body
    const settings = { ...house.settings, standardDrinksLimit: 4 }
    const before = (await verify()).events
    await server.send('PUT', '/api/house/settings', { document: settings, revision: house.revisions.settings })
    const glass = { ...house.glasses[0], name: 'tall, renamed' }
    await server.send('PUT', `/api/glasses/${glass.slug}`, { document: glass, revision: 1 })
    expect((await verify()).events).toBe(before + 2)
  })
})
