/** Blind tastings and notes: what must stay secret is attacked with everything that can be fetched, on both databases. */

import type { Decision, SaidNoteRow, Tasting, TastingListing } from '@conch/contract'
import type { TastingKey } from '@conch/core/tasting'
import { sql } from 'drizzle-orm'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { race } from './race.ts'
import { BACKENDS, historyStays, openFresh, TestServer } from './testServer.ts'

const MAKER = { as: 'bartender', called: 'Maker' }
const SUBJECTS = [
  { drink: 'old-bell', version: 1 },
  { drink: 'new-bell', version: 1 },
  { drink: 'third-bell', version: 1 },
]

describe.each(BACKENDS)('a blind tasting on %s', (backend) => {
  let server: TestServer
  let makerId = 0
  beforeAll(async () => {
    server = new TestServer(await openFresh(backend))
    await server.setUp()
    for (const name of ['Old Bell', 'New Bell', 'Third Bell']) await server.drinkWithVersion(name)
    makerId = await server.idOf(MAKER)
  })
  afterAll(() => server.database.close())

  const asked = (more: object = {}) => ({
    question: 'which bell is poured?',
    subjects: SUBJECTS,
    tasters: ['Ann', 'Ben', 'Cy'],
    makerId,
    ...more,
  })
  const draw = async () => (await server.send<{ id: number }>('POST', '/api/tastings', asked())).body.id
  const show = async (id: number, who = {}) => (await server.get<Tasting>(`/api/tastings/${id}`, who)).body
  const judge = (
    id: number,
    taster: string,
    code: string,
    like: number,
    who: Record<string, string> = { as: 'lead', called: taster },
  ) => server.send('POST', `/api/tastings/${id}/sheets`, { taster, code, scores: { like } }, who)
  const keyOf = async (id: number) => (await server.get<TastingKey>(`/api/tastings/${id}/key`, MAKER)).body

  it('gives every taster every glass, under codes that say nothing', async () => {
    const { document, names, judged, sheets } = await show(await draw())
    expect(names).toEqual(['Old Bell, v1', 'New Bell, v1', 'Third Bell, v1'])
    expect(document.orders).toHaveLength(3)
    for (const order of document.orders) expect(new Set(order)).toEqual(new Set(document.orders[0]))
    expect([judged, sheets]).toEqual([{}, []])
    expect(document.maker).toBe('Maker')
  })

  it('tells nobody but its maker which glass is which, whatever they fetch', async () => {
    const id = await draw()
    const { document } = await show(id)
    await judge(id, 'Ann', document.orders[0]?.[0] ?? '', 4)
    const key = await keyOf(id)
    expect(new Set(key.codes)).toEqual(new Set(document.orders[0]))
    const { paths } = (await server.get<{ paths: Record<string, object> }>('/api/openapi.json')).body
    const readings = Object.entries(paths)
      .filter(([, methods]) => 'get' in methods)
      .map(([path]) => path)
    const fillings: Record<string, string> = { '{slug}': 'old-bell', '{number}': '1', '{id}': String(id) }
    let attacked = 0
    for (const as of ['manager', 'lead', 'bartender'] as const)
      for (const path of [...readings, '/api/export', '/api/audit?limit=100']) {
        const { text } = await server.file(
          path.replace(/\{\w+\}/g, (name) => fillings[name] ?? name),
          { as, called: `a curious ${as}` },
        )
        attacked++
        expect(text).not.toContain(key.salt)
        // In the order of the subjects they are the answer; as an order of tasting they may stand there by chance.
        expect(text).not.toContain(`"codes":${JSON.stringify(key.codes)}`)
      }
    expect(attacked).toBeGreaterThan(90)
    for (const as of ['manager', 'lead', 'bartender']) {
      const no = await server.get(`/api/tastings/${id}/key`, { as, called: `another ${as}` })
      expect([no.status, no.problem.detail]).toEqual([
        403,
        'only Maker, who makes the drinks, may see which glass is which before it is closed',
      ])
    }
    expect(await server.copy()).not.toContain(key.salt)
  })

  it('draws which is which apart from codes and orders: they are seldom in the order in which they are seen', async () => {
    const firsts = new Set<number>()
    for (let i = 0; i < 25; i++) {
      const id = await draw()
      const { document } = await show(id)
      const sorted = [...(document.orders[0] ?? [])].sort()
      firsts.add(sorted.indexOf((await keyOf(id)).codes[0] ?? ''))
    }
    expect(firsts.size).toBe(3)
  })

  it('shows a taster only what they wrote themselves, until it is closed', async () => {
    const id = await draw()
    const [code = ''] = (await show(id)).document.orders[0] ?? []
    expect((await judge(id, 'Ann', code, 5)).status).toBe(201)
    expect((await judge(id, 'Ben', code, 1)).status).toBe(201)
    // A wrong tap is written again.
    expect((await judge(id, 'Ben', code, 2)).status).toBe(201)
    const ben = await show(id, { as: 'lead', called: 'Ben' })
    expect(ben.sheets.map((s) => [s.taster, s.scores.like])).toEqual([['Ben', 2]])
    expect(ben.judged).toEqual({ Ann: 1, Ben: 1 })
    expect((await show(id, MAKER)).sheets).toEqual([])
    expect((await server.send('POST', `/api/tastings/${id}/close`, undefined, { as: 'manager' })).problem.detail).toBe(
      'only Maker, who makes the drinks, may close it before it is closed'.replace(
        ' before it is closed',
        ' before it is closed',
      ),
    )
    expect((await server.send('POST', `/api/tastings/${id}/close`, undefined, MAKER)).status).toBe(200)
    const after = await show(id, { as: 'bartender', called: 'Anybody' })
    expect(after.sheets.map((s) => [s.taster, s.scores.like])).toEqual([
      ['Ann', 5],
      ['Ben', 2],
    ])
    expect(after.end?.event.kind === 'closed' && new Set(after.end.event.key.codes)).toEqual(
      new Set(after.document.orders[0]),
    )
    expect((await judge(id, 'Cy', code, 3)).problem.detail).toBe(
      `tasting ${id} was closed by Maker; nothing is written on it any more`,
    )
  })

  it('is a reason for a decision once it is closed', async () => {
    const id = await draw()
    const decide = (drink: string) =>
      server.send<Decision>('POST', `/api/drinks/${drink}/decisions`, {
        version: 1,
        reason: 'three of three',
        tasting: id,
      })
    expect((await decide('new-bell')).problem.detail).toBe(`tasting: tasting ${id} is not closed; close it first`)
    const [code = ''] = (await show(id)).document.orders[0] ?? []
    for (const taster of ['Ann', 'Ben', 'Cy']) await judge(id, taster, code, 4)
    await server.send('POST', `/api/tastings/${id}/close`, undefined, MAKER)
    await server.drinkWithVersion('Never Tasted')
    expect((await decide('never-tasted')).problem.detail).toBe(
      `tasting: version 1 of “never-tasted” was not tasted in tasting ${id}`,
    )
    expect((await decide('new-bell')).body.document).toMatchObject({ tasting: id, reason: 'three of three' })
  })

  it('refuses what makes no tasting, in plain words', async () => {
    const made = async (more: object) => (await server.send('POST', '/api/tastings', asked(more))).problem.detail
    expect(await made({ subjects: SUBJECTS.slice(0, 1) })).toBe('subjects: a tasting needs two versions at least')
    expect(await made({ subjects: [SUBJECTS[0], SUBJECTS[0]] })).toBe(
      'subjects.1: version 1 of “old-bell” is there twice',
    )
    expect(await made({ subjects: [SUBJECTS[0], { drink: 'old-bell', version: 8 }] })).toBe(
      'subjects.1: there is no version 8 of “old-bell”',
    )
    expect(await made({ tasters: ['Ann'] })).toBe('tasters: a tasting needs two tasters at least')
    expect(await made({ tasters: ['Ann', 'Ann'] })).toBe('tasters.1: Ann is there twice')
    expect(await made({ tasters: ['Ann', 'Maker'] })).toBe('tasters.1: Maker makes the drinks and cannot taste blind')
    expect(await made({ makerId: 9999 })).toBe('makerId: the maker is nobody who works here')
    const id = await draw()
    const [code = ''] = (await show(id)).document.orders[0] ?? []
    expect((await judge(id, 'Zoe', code, 3)).problem.detail).toBe('taster: Zoe is none of its tasters: Ann, Ben, Cy')
    expect((await judge(id, 'Ann', '7', 3)).problem.detail).toMatch(
      /^code: there is no glass 7; there are \d{3}, \d{3}, \d{3}$/,
    )
    expect((await judge(id, 'Ann', code, 9)).status).toBe(422)
    expect((await judge(id, 'Ann', code, 3, MAKER)).problem.detail).toBe(
      'Maker knows which glass is which and cannot judge them',
    )
    const close = () => server.send('POST', `/api/tastings/${id}/close`, undefined, MAKER)
    expect((await close()).problem.detail).toBe(
      'nobody has judged a glass yet; with fewer than two tasters there is nothing to compare',
    )
    await judge(id, 'Ann', code, 3)
    expect((await close()).problem.detail).toBe(
      'only Ann has judged a glass yet; with fewer than two tasters there is nothing to compare',
    )
  })

  it('ends once, however many end it at once; what nobody closes is given up and tells nothing', async () => {
    const id = await draw()
    const key = await keyOf(id)
    const [code = ''] = (await show(id)).document.orders[0] ?? []
    for (const taster of ['Ann', 'Ben']) await judge(id, taster, code, 3)
    const ends = await race(6, (i) =>
      i % 2 === 0
        ? server.send('POST', `/api/tastings/${id}/close`, undefined, MAKER)
        : server.send('POST', `/api/tastings/${id}/abandon`, { why: 'the ice ran out' }),
    )
    expect(ends.filter((e) => e.status === 200)).toHaveLength(1)
    const other = await draw()
    await server.send('POST', `/api/tastings/${other}/abandon`, { why: 'the ice ran out' })
    const given = await server.file(`/api/tastings/${other}`, { as: 'manager' })
    expect(given.text).not.toContain('"codes"')
    expect((await server.get(`/api/tastings/${other}/key`, MAKER)).problem.detail).toBe(
      `the key of tasting ${other} did not come along with the copy of the house; abandon it`,
    )
    const listed = (await server.get<TastingListing[]>('/api/tastings')).body
    expect(listed[0]).toMatchObject({ id: other, end: 'abandoned' })
    expect(key.codes).toHaveLength(3)
  })

  it('stays: the database refuses to change what was tasted', async () => {
    const { db } = server.database
    for (const table of ['tastings', 'tasting_sheets', 'tasting_events', 'taste_notes']) {
      const name = sql.identifier(table)
      if (table === 'taste_notes')
        await server.send('POST', '/api/drinks/old-bell/versions/1/notes', { says: 'good', well: 'front' })
      await expect(db.execute(sql`delete from ${name}`)).rejects.toMatchObject(historyStays(table))
    }
  })
})

describe.each(BACKENDS)('notes from a night on %s', (backend) => {
  let server: TestServer
  beforeAll(async () => {
    server = new TestServer(await openFresh(backend))
    await server.setUp()
    await server.drinkWithVersion('Noted', { stages: [{ method: 'flashBlend', durationS: 4 }] })
    await server.send('POST', '/api/lots', { ingredient: 'lime-juice' })
  })
  afterAll(() => server.database.close())
  const path = '/api/drinks/noted/versions/1/notes'

  it('are tied to the well, the lots and the stations of that night', async () => {
    const said = await server.send<SaidNoteRow>(
      'POST',
      path,
      { says: 'tooSour', words: 'like a lemon', well: 'yard' },
      { as: 'bartender', called: 'Bo' },
    )
    expect(said.status).toBe(201)
    expect(said.body).toMatchObject({
      savedBy: 'Bo',
      document: { kind: 'note', says: 'tooSour', words: 'like a lemon', well: 'yard' },
    })
    const [lot] = (await server.get<{ rows: { id: number }[] }>('/api/lots?of=lime-juice')).body.rows
    expect(said.body.document.kind === 'note' && said.body.document.lots).toEqual([lot?.id])
  })

  it('are answered by a manager or a lead, with a word', async () => {
    const answer = { isTaken: false, words: 'the limes were green', proposal: 'sour 0.92 → 0.86' }
    expect((await server.send('POST', `${path}/answer`, answer, { as: 'bartender' })).status).toBe(403)
    expect((await server.send('POST', `${path}/answer`, { ...answer, words: '' })).problem.detail).toBe(
      'words: say in a word why',
    )
    expect((await server.send('POST', `${path}/answer`, answer)).status).toBe(201)
    expect((await server.get<SaidNoteRow[]>(path)).body.map((n) => n.document.kind)).toEqual(['note', 'answer'])
  })

  it('refuse what is not there', async () => {
    expect((await server.send('POST', path, { says: 'tooSour', well: 'cellar' })).problem.detail).toBe(
      'well: there is no well “cellar”',
    )
    expect(
      (await server.send('POST', '/api/drinks/noted/versions/5/notes', { says: 'good', well: 'front' })).status,
    ).toBe(404)
    expect((await server.send('POST', path, { says: 'lovely', well: 'front' })).status).toBe(422)
  })
})
