/** What the server promises, on both databases. */

import type { AuditPage, Drink, Edition, EditionSummary, Menu } from '@conch/contract'
import { type SQL, sql } from 'drizzle-orm'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { A_HOUSE, aDocument, BACKENDS, openFresh, TestServer } from './testServer.ts'

/** Rows of a query asked behind the server's back. */
async function rowsOf(server: TestServer, query: SQL): Promise<Record<string, unknown>[]> {
  return ((await server.database.db.execute(query)) as { rows: Record<string, unknown>[] }).rows
}

describe.each(BACKENDS)('on %s', (backend) => {
  let server: TestServer
  beforeAll(async () => {
    server = new TestServer(await openFresh(backend))
  })
  afterAll(() => server.database.close())

  describe('a house', () => {
    it('is asked for before anything else', async () => {
      expect(await server.get('/api/house')).toMatchObject({ status: 409, problem: { code: 'notSetUp' } })
      expect((await server.get('/api/ready')).body).toEqual({
        ready: true,
        isSetUp: false,
        hasPeople: false,
        database: backend,
      })
    })

    it('is set up once, with a shelf, glasses and every method at each well', async () => {
      const made = await server.setUp()
      expect(made.status).toBe(201)
      expect(made.body.wells.map((w) => w.name)).toEqual(['Front', 'Yard'])
      expect(made.body.wells[0]?.stations).toHaveLength(8)
      expect((await server.house()).body.ingredients.length).toBeGreaterThan(10)
      expect(await server.setUp('Again')).toMatchObject({ status: 409, problem: { code: 'exists' } })
    })

    it('refuses two wells of one name', async () => {
      const body = { ...A_HOUSE, wells: ['Bar', 'bar'] }
      expect((await server.send('POST', '/api/house', body)).problem.detail).toContain('each well needs its own name')
    })

    it('takes a change on the revision it was made from, and tells the second what stands there', async () => {
      const house = (await server.house()).body
      const rum = house.ingredients.find((i) => i.slug === 'aged-rum')
      const stronger = { ...rum, figures: { ...rum?.figures, abvPct: { value: 46, basis: 'label' } } }
      const revision = house.revisions.ingredients['aged-rum']
      expect(await server.send('PUT', '/api/ingredients/aged-rum', { document: stronger, revision })).toMatchObject({
        status: 200,
        body: { revision: (revision ?? 0) + 1 },
      })
      expect(await server.send('PUT', '/api/ingredients/aged-rum', { document: rum, revision })).toMatchObject({
        status: 409,
        problem: { code: 'conflict', current: { figures: { abvPct: { value: 46 } } } },
      })
      expect(await server.send('PUT', '/api/ingredients/aged-rum', { document: rum, revision: 0 })).toMatchObject({
        status: 409,
        problem: { code: 'exists' },
      })
    })

    it('keeps wells with their stations, new and changed', async () => {
      const well = { slug: 'roof', name: 'Roof', stations: [{ slug: 'tin', name: 'Tin', method: 'hardShake' }] }
      expect((await server.send('PUT', '/api/wells/roof', { document: well, revision: 0 })).status).toBe(200)
      const changed = { ...well, stations: [...well.stations, { slug: 'glass', name: 'Glass', method: 'stir' }] }
      expect((await server.send('PUT', '/api/wells/roof', { document: changed, revision: 1 })).status).toBe(200)
      const house = (await server.house()).body
      expect(house.wells.find((w) => w.slug === 'roof')?.stations.map((s) => s.slug)).toEqual(['tin', 'glass'])
    })
  })

  describe('a drink', () => {
    it('begins as a draft and becomes versions that stay', async () => {
      const drink = await server.createDrink('Tin Roof')
      expect(drink).toMatchObject({ slug: 'tin-roof', versions: [], draft: { baseVersion: null } })
      const draft = await server.saveDraft('tin-roof', aDocument({ name: 'Tin Roof' }), drink.draft?.revision ?? 0)
      const version = await server.saveVersion('tin-roof', draft.body.revision, 'first writing')
      expect(version).toMatchObject({ status: 201, body: { number: 1, parent: null, reason: 'first writing' } })
      const after = (await server.get<Drink>('/api/drinks/tin-roof')).body
      expect(after.draft).toBeNull()
      expect(after.versions[0]?.document.pours[0]?.amount?.asWritten).toBe('1¾ oz')
      const next = await server.saveDraft('tin-roof', aDocument({ name: 'Tin Roof' }), 0, 'Lead', 1)
      expect((await server.saveVersion('tin-roof', next.body.revision)).body).toMatchObject({ number: 2, parent: 1 })
    })

    it('is told apart by its name', async () => {
      expect(await server.send('POST', '/api/drinks', { name: 'Tin roof' })).toMatchObject({
        status: 409,
        problem: { code: 'exists' },
      })
      expect(await server.send('POST', '/api/drinks', { name: '???' })).toMatchObject({
        status: 422,
        problem: { fields: [{ field: 'name' }] },
      })
    })

    it('tells the second of two people, and keeps the words of the first', async () => {
      const drink = await server.createDrink('Two Hands')
      const revision = drink.draft?.revision ?? 0
      const first = await server.saveDraft('two-hands', aDocument({ note: 'from Ada' }), revision, 'Ada')
      const second = await server.saveDraft('two-hands', aDocument({ note: 'from Ben' }), revision, 'Ben')
      expect(second).toMatchObject({
        status: 409,
        problem: {
          code: 'conflict',
          detail: 'Ada saved this draft in between; compare the two before you go on',
          current: { document: { note: 'from Ada' } },
        },
      })
      // Ben has compared and saves over it: Ada's words are still kept.
      expect(
        (await server.saveDraft('two-hands', aDocument({ note: 'from Ben' }), first.body.revision, 'Ben')).status,
      ).toBe(200)
      const kept = await rowsOf(
        server,
        sql`select document->>'note' as note from document_drafts_replaced where subject = 'two-hands'`,
      )
      expect(kept.map((r) => r.note)).toContain('from Ada')
    })

    it('never gives a revision twice, so that a stale page cannot save into a later draft', async () => {
      const drink = await server.createDrink('Old Page')
      const stale = drink.draft?.revision ?? 0
      expect((await server.send('DELETE', `/api/drinks/old-page/draft/${stale}`)).status).toBe(200)
      await server.saveDraft('old-page', aDocument(), 0, 'Ada')
      expect((await server.saveDraft('old-page', aDocument(), stale, 'Ben')).status).toBe(409)
      expect((await server.saveDraft('old-page', aDocument(), 0, 'Ben')).status).toBe(409)
    })

    it('is not saved when a well cannot make it, and says where', async () => {
      const drink = await server.createDrink('No Bucket')
      const draft = await server.saveDraft(
        'no-bucket',
        aDocument({ glassByWell: { yard: 'bucket' } }),
        drink.draft?.revision ?? 0,
      )
      const refused = await server.saveVersion('no-bucket', draft.body.revision)
      expect(refused).toMatchObject({
        status: 422,
        problem: { code: 'cannotCompute', fields: [{ field: 'document.glassByWell.yard' }] },
      })
      expect((await server.get<Drink>('/api/drinks/no-bucket')).body.versions).toEqual([])
    })

    it('saved by many at once gets every version once', async () => {
      const { draft, slug } = await server.createDrink('Crowd')
      const answers = await Promise.all(Array.from({ length: 8 }, () => server.saveVersion(slug, draft?.revision ?? 0)))
      expect(answers.map((a) => a.status).filter((s) => s === 201)).toHaveLength(1)
      expect(answers.every((a) => [201, 404, 409].includes(a.status))).toBe(true)
    })
  })

  describe('an edition', () => {
    it('freezes versions and figures, whatever happens to the house later', async () => {
      const drink = await server.drinkWithVersion('Frozen')
      const menu = await server.plan([{ drink: drink.slug, version: 1 }])
      const published = await server.publish(menu.revision)
      expect(published.status).toBe(201)
      const { number } = published.body
      const house = (await server.house()).body
      const syrup = house.ingredients.find((i) => i.slug === 'sugar-syrup')
      const sweeter = { ...syrup, figures: { ...syrup?.figures, sugarGPer100Ml: { value: 80, basis: 'measured' } } }
      await server.send('PUT', '/api/ingredients/sugar-syrup', {
        document: sweeter,
        revision: house.revisions.ingredients['sugar-syrup'],
      })
      const later = (await server.get<Edition>(`/api/editions/${number}`)).body
      expect(later).toEqual(published.body)
      const again = (await server.publish((await server.plan([{ drink: drink.slug, version: 1 }])).revision, 'Autumn'))
        .body
      const sweetness = (e: Edition) =>
        e.lock.chapters[0]?.drinks[0]?.byWell.front?.result.predictions.sweetGPer100Ml?.value ?? 0
      expect(sweetness(again)).toBeGreaterThan(sweetness(later) + 0.5)
      expect((await server.get<Drink>(`/api/drinks/${drink.slug}`)).body.poured).toEqual({
        version: 1,
        edition: again.number,
      })
      expect((await server.get<EditionSummary[]>('/api/editions')).body.map((e) => e.name)).toEqual([
        'Autumn',
        'Summer',
      ])
    })

    it('needs the plan that was looked at, a drink on it, and versions that exist', async () => {
      const menu = (await server.get<Menu>('/api/menu')).body
      expect(await server.publish(menu.revision - 1)).toMatchObject({ status: 409, problem: { code: 'conflict' } })
      const ghost = {
        plan: { chapters: [{ name: 'A', entries: [{ drink: 'frozen', version: 99 }] }] },
        revision: menu.revision,
      }
      expect((await server.send('PUT', '/api/menu', ghost)).problem.detail).toBe(
        'plan.chapters.0.entries.0: there is no version 99 of “frozen”',
      )
      const empty = await server.send<Menu>('PUT', '/api/menu', { plan: { chapters: [] }, revision: menu.revision })
      expect((await server.publish(empty.body.revision)).problem.detail).toContain('the plan is empty')
    })

    it('is published by a manager only', async () => {
      const lead = { as: 'lead' }
      const refused = await server.send('POST', '/api/editions', { name: 'X', planRevision: 1 }, lead)
      expect(refused).toMatchObject({
        status: 403,
        problem: { detail: 'a Lead may not publish an edition; ask a Manager' },
      })
      const bartender = { as: 'bartender' }
      expect((await server.send('POST', '/api/drinks', { name: 'Mine' }, bartender)).status).toBe(403)
      expect((await server.get('/api/drinks', bartender)).status).toBe(200)
    })
  })

  describe('history', () => {
    it.each(['versions', 'editions', 'events', 'document_drafts_replaced'])(
      'in %s is refused change by the database itself',
      async (table) => {
        const { db } = server.database
        const name = sql.raw(table)
        const column = sql.raw(
          { versions: 'reason', editions: 'name', events: 'subject', document_drafts_replaced: 'saved_by' }[
            table
          ] as string,
        )
        const count = await rowsOf(server, sql`select count(*)::int as n from ${name}`)
        expect(Number(count[0]?.n)).toBeGreaterThan(0)
        for (const attempt of [
          sql`update ${name} set ${column} = 'rewritten'`,
          sql`delete from ${name}`,
          sql`truncate ${name} cascade`,
        ]) {
          const error = await db.execute(attempt).then(
            () => undefined,
            (e) => e as Error,
          )
          expect(String((error?.cause as Error | undefined)?.message)).toBe(
            `rows of ${table} are history and do not change`,
          )
        }
      },
    )

    it('is written down by who and what', async () => {
      const entries = (await server.get<AuditPage>('/api/audit')).body.entries
      expect(entries.map((e) => e.verb)).toEqual(expect.arrayContaining(['setUp', 'versioned', 'published']))
    })
  })

  it('moves house: what is exported comes back the same elsewhere', async () => {
    const copy = await server.copy()
    const other = new TestServer(await openFresh(backend))
    try {
      expect(await other.bring(copy)).toMatchObject({ state: 'done', came: { editions: 2, remarks: [] } })
      expect(await other.copy()).toBe(copy)
      expect((await other.get('/api/editions/1')).body).toEqual((await server.get('/api/editions/1')).body)
      expect((await other.bring(copy)).problem?.code).toBe('exists')
    } finally {
      await other.database.close()
    }
  })
})
