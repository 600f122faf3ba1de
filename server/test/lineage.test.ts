/** How drinks come to be: parents, sources and what is found out later, on both databases. */

import {
  type Decision,
  type Drink,
  type DrinkPage,
  houseFileSchema,
  type Lineage,
  type Menu,
  type NextMenu,
  type SaidFinding,
  type Version,
} from '@conch/contract'
import { sql } from 'drizzle-orm'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { DEMO } from '../database/paths.ts'
import { readHouseFolder } from '../readHouseFolder.ts'
import { race } from './race.ts'
import { aDocument, BACKENDS, historyStays, openFresh, TestServer } from './testServer.ts'

const BOOK = {
  kind: 'book',
  title: 'Drinks of the river boats',
  claims: [{ about: 'year', says: '1911', certainty: 'documented' }],
}

describe.each(BACKENDS)('a lineage on %s', (backend) => {
  let server: TestServer
  beforeAll(async () => {
    server = new TestServer(await openFresh(backend))
    await server.setUp()
    for (const name of ['Bell', 'Buoy', 'Clerk', 'Merged']) await server.drinkWithVersion(name)
  })
  afterAll(() => server.database.close())
  const lineage = async (slug: string) => (await server.get<Lineage>(`/api/drinks/${slug}/lineage`)).body
  const find = (slug: string, finding: object, number = 1) =>
    server.send<SaidFinding>('POST', `/api/drinks/${slug}/versions/${number}/findings`, finding)
  const parents = async (slug: string, number = 1) =>
    (await lineage(slug)).versions.find((v) => v.number === number)?.parents

  it('takes a version from a source as it is: the drink keeps its name, its draft and what is planned', async () => {
    await server.plan([{ drink: 'bell', version: 1 }])
    const draft = await server.saveDraft('bell', aDocument({ name: 'Bell' }), 0, 'Manager', 1)
    const found = await server.send<Version>('POST', '/api/drinks/bell/found', {
      document: aDocument({ name: 'The Old Bell' }),
      era: 'about 1911',
      origin: { kind: 'historical' },
      sources: [{ ...BOOK, asWritten: 'rum, lime, sugar', measures: { ounceMl: 28.41 } }],
      questions: ['who wrote it?'],
    })
    expect([found.status, found.problem.detail]).toEqual([201, undefined])
    expect(found.body).toMatchObject({ number: 2, parent: null, parents: [], era: 'about 1911' })
    const after = (await server.get<Drink>('/api/drinks/bell')).body
    expect([after.name, after.planned, after.draft?.revision]).toEqual(['Bell', 1, draft.body.revision])
    const seen = await lineage('bell')
    expect(seen.versions[1]?.sources[0]).toMatchObject({ title: BOOK.title, measures: { ounceMl: 28.41 } })
    expect(seen.findings.map((f) => f.document)).toEqual([{ kind: 'question', asks: 'who wrote it?' }])
    // A menu takes the house's own version, not the book's.
    const [row] = (await server.get<DrinkPage>('/api/drinks?of=bell')).body.rows
    expect([row?.latestVersion, row?.ownVersion]).toEqual([2, 1])
  })

  it('begins a new drink with what a source has, at once a version', async () => {
    const made = await server.send<Drink>('POST', '/api/drinks', {
      name: 'Saloon',
      document: aDocument({ name: 'Saloon' }),
      found: { origin: { kind: 'historical', years: { toYear: 1911 } }, sources: [BOOK] },
    })
    expect(made.body).toMatchObject({
      slug: 'saloon',
      draft: null,
      versions: [{ number: 1, origin: { kind: 'historical' } }],
    })
    const menu = (await server.get<Menu>('/api/menu')).body
    expect(JSON.stringify(menu.plan)).not.toContain('saloon')
  })

  it('makes a riff a drink of its own that keeps its parent, beside it on one menu', async () => {
    const riff = await server.send<Drink>('POST', '/api/drinks', {
      name: 'Buoy Too',
      riffOf: { drink: 'buoy', version: 1 },
    })
    expect(riff.body.draft?.document.pours).toEqual(
      (await server.get<Drink>('/api/drinks/buoy')).body.versions[0]?.document.pours,
    )
    expect(riff.body).toMatchObject({
      riffOf: { drink: 'buoy', version: 1 },
      draft: { document: { name: 'Buoy Too' } },
    })
    const saved = await server.saveVersion('buoy-too', riff.body.draft?.revision ?? 0)
    expect(saved.body).toMatchObject({ number: 1, parent: null, parents: [{ drink: 'buoy', version: 1 }] })
    expect((await lineage('buoy')).relatives.map((r) => `${r.name} v${r.number}`)).toEqual(['Buoy Too v1'])
    expect((await lineage('buoy-too')).relatives.map((r) => `${r.name} v${r.number}`)).toEqual(['Buoy v1'])
    await server.plan([
      { drink: 'buoy', version: 1 },
      { drink: 'buoy-too', version: 1 },
    ])
    const next = (await server.get<NextMenu>('/api/menu/next?well=front')).body
    expect(JSON.stringify(next)).toContain('buoy-too')
    expect((await lineage('buoy')).relatives[0]).toMatchObject({ isPlanned: true, isPoured: false })
  })

  it('merges: a version comes from several, of other drinks, too', async () => {
    const draft = await server.saveDraft('merged', aDocument({ name: 'Merged' }), 0, 'Manager', 1)
    const body = { draftRevision: draft.body.revision, reason: 'both together', origin: { kind: 'trial' } }
    const no = await server.send('POST', '/api/drinks/merged/versions', {
      ...body,
      parents: [{ drink: 'clerk', version: 9 }],
    })
    expect([no.status, no.problem.detail]).toEqual([
      422,
      'parents.0: there is no version 9 of “clerk”; a parent is saved before',
    ])
    const yes = await server.send<Version>('POST', '/api/drinks/merged/versions', {
      ...body,
      parents: [
        { drink: 'clerk', version: 1 },
        { drink: 'merged', version: 1 },
      ],
    })
    expect(yes.body.parents).toEqual([
      { drink: 'merged', version: 1 },
      { drink: 'clerk', version: 1 },
    ])
  })

  it('is completed later: a version turns out to come from another, which can be taken back', async () => {
    const from = { drink: 'bell', version: 2 }
    const said = await find('bell', { kind: 'from', from })
    expect(said.status).toBe(201)
    expect(await parents('bell')).toEqual([from])
    expect((await find('bell', { kind: 'from', from })).problem.detail).toBe(
      'from: it is known already that it comes from version 2 of “bell”',
    )
    expect((await find('bell', { kind: 'withdrawn', finding: said.body.id, why: 'another bell' })).status).toBe(201)
    expect(await parents('bell')).toEqual([])
    // What was taken back can be said again.
    expect((await find('bell', { kind: 'from', from })).status).toBe(201)
  })

  it('refuses a circle in words that name the way round', async () => {
    expect((await find('clerk', { kind: 'from', from: { drink: 'clerk', version: 1 } })).problem.detail).toBe(
      'from: then it would come from itself: clerk v1 comes from clerk v1',
    )
    expect((await find('buoy', { kind: 'from', from: { drink: 'buoy-too', version: 1 } })).problem.detail).toBe(
      'from: then it would come from itself: buoy-too v1 comes from buoy v1 comes from buoy-too v1',
    )
    expect((await find('buoy', { kind: 'from', from: { drink: 'nobody', version: 1 } })).problem.detail).toBe(
      'from: there is no version 1 of “nobody”',
    )
  })

  it('says two things that together are a circle only once, however they race', async () => {
    await server.drinkWithVersion('Hen')
    await server.drinkWithVersion('Egg')
    const answers = await race(8, (i) =>
      i % 2 === 0
        ? find('hen', { kind: 'from', from: { drink: 'egg', version: 1 } })
        : find('egg', { kind: 'from', from: { drink: 'hen', version: 1 } }),
    )
    expect(answers.filter((a) => a.status === 201)).toHaveLength(1)
    const links = [await parents('hen'), await parents('egg')]
    expect(links.flat()).toHaveLength(1)
  })

  it('keeps questions in one list until they are answered; a mistaken answer opens them again', async () => {
    const open = async () =>
      (await server.get<{ drink: string; finding: SaidFinding }[]>('/api/research')).body.filter(
        (q) => q.drink === 'clerk',
      )
    const asked = await find('clerk', { kind: 'question', asks: 'who was the clerk?' })
    expect((await open()).map((q) => q.finding.id)).toEqual([asked.body.id])
    const answered = await find('clerk', { kind: 'answer', question: asked.body.id, says: 'the tide office’s' })
    expect(await open()).toEqual([])
    expect((await find('clerk', { kind: 'withdrawn', finding: answered.body.id, why: 'another clerk' })).status).toBe(
      201,
    )
    expect((await open()).map((q) => q.finding.id)).toEqual([asked.body.id])
    expect((await find('clerk', { kind: 'answer', question: answered.body.id, says: 'no' })).problem.detail).toBe(
      `question: there is no open question ${answered.body.id} about this drink`,
    )
    expect((await find('clerk', { kind: 'withdrawn', finding: 99_999, why: 'not there' })).problem.detail).toBe(
      'finding: there is nothing under 99999 about this drink that still stands',
    )
  })

  it('refuses what is not said rightly, in plain words, and keeps nothing of it', async () => {
    const before = await lineage('clerk')
    const refused: [object, string][] = [
      [{ kind: 'source', source: { kind: 'book', title: '  ' } }, 'source.title: a source needs a title'],
      [{ kind: 'question', asks: '' }, 'asks: say what is to be found out'],
    ]
    for (const [finding, words] of refused) {
      const answer = await find('clerk', finding)
      expect([answer.status, answer.problem.detail]).toEqual([422, words])
    }
    expect((await find('clerk', { kind: 'question', asks: 'who then?' }, 7)).status).toBe(404)
    const years = { kind: 'historical', years: { fromYear: 1950, toYear: 1940 } }
    const found = await server.send('POST', '/api/drinks/clerk/found', { document: aDocument(), origin: years })
    expect(found.problem.detail).toBe('origin.years: the first year comes after the last')
    expect(await lineage('clerk')).toEqual(before)
  })

  it('decides what is poured with a reason: it is planned, and how things stood is kept', async () => {
    const sweeter = aDocument({
      name: 'Clerk',
      pours: [
        { ingredient: 'white-rum', volumeMl: 60 },
        { ingredient: 'sugar-syrup', volumeMl: 30 },
      ],
    })
    const draft = await server.saveDraft('clerk', sweeter, 0, 'Manager', 1)
    const saved = await server.saveVersion('clerk', draft.body.revision)
    const decide = (version: number, reason: string, who = {}) =>
      server.send<Decision>('POST', '/api/drinks/clerk/decisions', { version, reason }, who)
    expect((await decide(1, 'ok')).problem.detail).toBe('reason: say in a few words why')
    expect((await decide(77, 'the best')).problem.detail).toBe('version: there is no version 77 of “clerk”')
    expect((await decide(1, 'may I decide?', { as: 'bartender' })).status).toBe(403)
    expect((await decide(1, 'the only one')).body.document).toMatchObject({ instead: null, changed: '' })
    const second = await decide(saved.body.number, 'four of five liked it better')
    expect(second.body.document).toMatchObject({ instead: 1, reason: 'four of five liked it better' })
    expect(second.body.document.changed).not.toBe('')
    expect(Object.keys(second.body.document.byWell)).toEqual(['front', 'yard'])
    expect(second.body.document.byWell.front?.now.sweetGPer100Ml?.value).toBeGreaterThan(
      second.body.document.byWell.front?.before?.sweetGPer100Ml?.value ?? Infinity,
    )
    expect((await server.get<Drink>('/api/drinks/clerk')).body.planned).toBe(saved.body.number)
    const { revision } = (await server.get<Menu>('/api/menu')).body
    await server.publish(revision)
    const { decisions, editions, poured } = await lineage('clerk')
    expect(decisions.map((d) => [d.number, d.savedBy])).toEqual([
      [1, 'Manager'],
      [saved.body.number, 'Manager'],
    ])
    expect(editions).toMatchObject([{ edition: 1, version: saved.body.number }])
    expect(poured?.version).toBe(saved.body.number)
    const newest = (await server.get<Decision[]>('/api/decisions')).body.filter((d) => d.drink === 'clerk')
    expect(newest.map((d) => d.number)).toEqual([saved.body.number])
  })

  it('keeps every decision of those who decide at once; the last one is planned', async () => {
    await server.drinkWithVersion('Raced')
    const before = (await server.get<Menu>('/api/menu')).body
    const answers = await race(6, (i) =>
      server.send<Decision>('POST', '/api/drinks/raced/decisions', { version: 1, reason: `hand ${i} says so` }),
    )
    expect(answers.map((a) => a.status)).toEqual([201, 201, 201, 201, 201, 201])
    expect((await lineage('raced')).decisions).toHaveLength(6)
    const after = (await server.get<Menu>('/api/menu')).body
    expect(after.revision).toBe(before.revision + 6)
    expect(JSON.stringify(after.plan).match(/"raced"/g)).toHaveLength(1)
  })

  it('is read by everybody and written by managers and leads', async () => {
    expect((await server.get('/api/drinks/bell/lineage', { as: 'bartender' })).status).toBe(200)
    const no = await server.send(
      'POST',
      '/api/drinks/bell/versions/1/findings',
      { kind: 'question', asks: 'may I?' },
      { as: 'bartender' },
    )
    expect([no.status, no.problem.detail]).toEqual([403, expect.stringContaining('write in a drink’s history')])
    const lead = await server.send(
      'POST',
      '/api/drinks/bell/versions/1/findings',
      { kind: 'question', asks: 'may I?' },
      { as: 'lead' },
    )
    expect(lead.status).toBe(201)
  })

  it('stays: the database refuses to change what was found', async () => {
    const { db } = server.database
    await expect(db.execute(sql`update findings set saved_by = 'me'`)).rejects.toMatchObject(historyStays('findings'))
    await expect(db.execute(sql`delete from findings`)).rejects.toMatchObject(historyStays('findings'))
    await expect(db.execute(sql`delete from decisions`)).rejects.toMatchObject(historyStays('decisions'))
  })
})

describe('a house file', () => {
  const demo = () => houseFileSchema.parse(readHouseFolder(DEMO, new Date('2026-09-01T12:00:00Z')))

  it('with parents that are not in it, twice, or in a circle is refused by name', async () => {
    const server = new TestServer(await openFresh('pglite'))
    const at = (file: ReturnType<typeof demo>, drink: string, number: number) =>
      file.drinks.find((d) => d.slug === drink)?.versions.find((v) => v.number === number) as ReturnType<
        typeof demo
      >['drinks'][number]['versions'][number]
    const refused = async (change: (file: ReturnType<typeof demo>) => void) => {
      const file = demo()
      change(file)
      return server.demo(file).then(
        () => 'it came in',
        (error: Error) => error.message,
      )
    }
    expect(await refused((f) => at(f, 'tide-clerk', 3).parents.push({ drink: 'tide-clerk', version: 9 }))).toMatch(
      /^drinks\.13\.versions\.2\.parents\.0: there is no version 9 of “tide-clerk” in this file/,
    )
    expect(await refused((f) => at(f, 'tide-clerk', 3).parents.push({ drink: 'tide-clerk', version: 1 }))).toMatch(
      /version 1 of “tide-clerk” is its parent twice/,
    )
    expect(
      await refused((f) => at(f, 'brass-ferry', 2).parents.push({ drink: 'sluice-gate-roster', version: 1 })),
    ).toBe('drinks: parents go in a circle: brass-ferry v2 comes from sluice-gate-roster v1 comes from brass-ferry v2')
    expect((await server.get<{ isSetUp: boolean }>('/api/ready', { as: '' })).body.isSetUp).toBe(false)
    await server.database.close()
  })

  it('of the demo has eight drinks with three versions or more, rivals, a merger and a riff beside its parent', async () => {
    const file = demo()
    const many = file.drinks.filter((d) => d.versions.length >= 3 && d.versions.length <= 6)
    expect(many.length).toBeGreaterThanOrEqual(8)
    const ferry = file.drinks.find((d) => d.slug === 'brass-ferry')
    const creators = ferry?.versions
      .flatMap((v) => v.sources.flatMap((s) => s.claims))
      .filter((c) => c.about === 'creator')
    expect(new Set(creators?.map((c) => c.says)).size).toBeGreaterThan(1)
    const all = file.drinks.flatMap((d) => d.versions.map((v) => ({ ...v, drink: d.slug })))
    expect(all.some((v) => v.parent !== null && v.parents.some((p) => p.drink === v.drink))).toBe(true)
    const planned = file.plan?.chapters.flatMap((c) => c.entries.map((e) => e.drink)) ?? []
    const riffs = all.filter((v) => v.origin?.kind === 'riff' && v.parents.some((p) => p.drink !== v.drink))
    expect(riffs.some((v) => [v.drink, ...v.parents.map((p) => p.drink)].every((d) => planned.includes(d)))).toBe(true)
    const bowl = all.find((v) => v.sources.some((s) => s.serves === 4 && s.measures?.ounceMl !== undefined))
    expect(bowl?.document.pours.some((p) => p.amount?.asWritten?.includes('5 limes'))).toBe(true)
  })
})
