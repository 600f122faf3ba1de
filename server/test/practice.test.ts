/** What people practise: their own, seen by them and by whoever leads; refused in words; never anybody else's. */

import { type AuditPage, houseFileSchema, type PracticePeople, SAID_AGO, type SaidPractice } from '@conch/contract'
import { answersIn, rememberedBy, sittingsIn } from '@conch/core/learn'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { DEMO } from '../database/paths.ts'
import { readHouseFolder } from '../readHouseFolder.ts'
import { BACKENDS, openFresh, TestServer } from './testServer.ts'

const HEARTH = { as: 'bartender', called: 'Bartender Hearth' }
const COURTYARD = { as: 'bartender', called: 'Bartender Courtyard' }
const LEAD = { as: 'lead', called: 'Lead' }

describe.each(BACKENDS)('practice, %s', (backend) => {
  let server: TestServer
  const now = new Date('2026-09-01T15:00:00Z')
  beforeAll(async () => {
    server = new TestServer(await openFresh(backend), () => now)
    await server.demo(houseFileSchema.parse(readHouseFolder(DEMO, now)))
  })
  afterAll(() => server.database.close())

  const drill = (more: object = {}) => ({
    kind: 'drill',
    well: 'hearth',
    answers: [{ item: 'amount:tide-clerk:lemon-juice=22.5', grade: 'good', seconds: 4.2, at: now.toISOString() }],
    ...more,
  })
  const pours = (count = 4) => ({
    kind: 'pours',
    scale: 'simulated',
    pours: Array.from({ length: count }, (_, i) => ({ wantedMl: 15, gotMl: 15 + i / 10 })),
  })
  const say = (body: object, who: Record<string, string> = HEARTH) =>
    server.send<SaidPractice>('POST', '/api/practice', body, who)
  const own = async (who = HEARTH) => (await server.get<SaidPractice[]>('/api/practice', who)).body

  it('is there for whoever practised, as they answered, and for nobody else of the bar', async () => {
    expect((await say(drill())).status).toBe(201)
    expect((await say(pours())).status).toBe(201)
    expect((await own()).map((p) => p.document)).toEqual([drill(), pours()])
    expect(await own(COURTYARD)).toEqual([])
    expect((await server.get('/api/practice/people', COURTYARD)).status).toBe(403)
    expect((await server.get('/api/practice', { as: 'viewer' })).status).toBe(403)
    // Who asks is never said by the address.
    expect((await server.get('/api/practice?person=1', COURTYARD)).body).not.toMatchObject([{ document: drill() }])
  })

  it('is seen by a lead, by name and without an order of merit; whoever has not begun stands there too', async () => {
    await say(drill({ answers: [{ ...drill().answers[0], grade: 'again' }] }), COURTYARD)
    const { body } = await server.get<PracticePeople>('/api/practice/people', LEAD)
    const names = body.map((p) => p.name)
    expect(names).toEqual([...names].sort((a, b) => a.localeCompare(b, 'en')))
    expect(names).toEqual(expect.arrayContaining(['Bartender Courtyard', 'Bartender Hearth', 'Lead', 'Manager']))
    expect(names).not.toContain('Guest tablet')
    const counts = Object.fromEntries(body.map((p) => [p.name, [p.remembered.length, p.sittings.length]]))
    expect(counts).toMatchObject({ 'Bartender Courtyard': [1, 0], 'Bartender Hearth': [1, 1], Lead: [0, 0] })
    // What stands with the lead is what the person's own device makes of their own answers.
    const mine = rememberedBy(answersIn(await own()))
    const seen = body.find((p) => p.name === 'Bartender Hearth')
    for (const { item, dueAt, stabilityDays } of seen?.remembered ?? [])
      expect(mine.get(item)).toMatchObject({ dueAt, stabilityDays })
    expect(seen?.sittings).toEqual(sittingsIn(await own()))
    // Which answers, and how fast, stays theirs.
    expect(JSON.stringify(body)).not.toMatch(/grade|seconds|again/)
  })

  it('says in the list of who did what that, and never how', async () => {
    const { body } = await server.get<AuditPage>('/api/audit?kind=practice', { as: 'manager' })
    expect(body.entries.length).toBeGreaterThanOrEqual(3)
    expect(JSON.stringify(body.entries)).not.toMatch(/again|22\.5|gotMl/)
  })

  it('kept while the house was away it has its own time', async () => {
    const late = { ...HEARTH, [SAID_AGO]: '7200', 'idempotency-key': 'a-drill-that-waited' }
    const first = await say(drill(), late)
    expect(first.body.document.saidAt).toBe('2026-09-01T13:00:00.000Z')
    // Sent again it is the same.
    expect((await say(drill(), late)).body.id).toBe(first.body.id)
  })

  it.each([
    ['a well that is not there', drill({ well: 'attic' }), /there is no well “attic”/],
    ['nothing', drill({ answers: [] }), /nothing was answered/],
    [
      'a question that is none',
      drill({ answers: [{ ...drill().answers[0], item: 'how much?' }] }),
      /is named like amount/,
    ],
    [
      'an answer of next week',
      drill({ answers: [{ ...drill().answers[0], at: '2026-09-09T15:00:00Z' }] }),
      /answers\.0\.at.*still to come/,
    ],
    ['three pours', pours(3), /four pours say something of a hand/],
    ['a bucket', { ...pours(), pours: [...pours().pours, { wantedMl: 15, gotMl: 5000 }] }, /500/],
    ['a practice of another kind', { kind: 'juggling' }, /kind/],
  ])('refuses %s, by name', async (_what, body, expected) => {
    const before = (await own()).length
    const refused = await say(body)
    expect(refused.status).toBe(422)
    expect(JSON.stringify(refused.body)).toMatch(expected)
    expect(await own()).toHaveLength(before)
  })
})
