/** Rounds as they come to the house: finished once, put aside and taken up by one hand, refused in words. */

import { type AuditPage, type Drink, houseFileSchema, type Rounds, SAID_AGO, type SaidRound } from '@conch/contract'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { DEMO } from '../database/paths.ts'
import { readHouseFolder } from '../readHouseFolder.ts'
import { race } from './race.ts'
import { BACKENDS, openFresh, TestServer } from './testServer.ts'

const BAR = { as: 'bartender', called: 'Bartender Hearth' }
const OTHER = { as: 'bartender', called: 'Bartender Courtyard' }

describe.each(BACKENDS)('rounds, %s', (backend) => {
  let server: TestServer
  let now = new Date('2026-09-01T22:00:00Z')
  let document: Drink['versions'][number]['document']
  beforeAll(async () => {
    server = new TestServer(await openFresh(backend), () => now)
    await server.demo(houseFileSchema.parse(readHouseFolder(DEMO, now)))
    const { versions } = (await server.get<Drink>('/api/drinks/tide-clerk', BAR)).body
    document = (versions[0] as Drink['versions'][number]).document
  })
  afterAll(() => server.database.close())

  let keys = 0
  const round = (more: object = {}) => ({
    key: (++keys).toString(16).padStart(32, '0'),
    well: 'hearth',
    startedAt: now.toISOString(),
    loads: [{ id: 'a', drink: 'tide-clerk', version: 1, document, glasses: 2 }],
    ticks: ['before:all', 'glass:a', 'pour:a:0', 'ice:a', 'chill:a'],
    poured: { 'pour:a:1': 45 },
    clocks: { a: { startedAt: now.toISOString(), ranS: 7.5 } },
    ...more,
  })
  const say = (state: 'made' | 'parked', of = round(), who = BAR, headers: Record<string, string> = {}) =>
    server.send<SaidRound>('POST', '/api/rounds', { state, round: of, skipped: [] }, { ...who, ...headers })
  const rounds = async () => (await server.get<Rounds>('/api/rounds', BAR)).body
  const end = (id: number, why: string, who = BAR) =>
    server.send<SaidRound>('POST', `/api/rounds/${id}/end`, { why }, who)

  it('is finished once, however often and by whoever it is sent: the first counts', async () => {
    const of = round()
    const said = await race(4, () => say('made', of))
    expect(said.map((s) => s.status)).toEqual([201, 201, 201, 201])
    expect(new Set(said.map((s) => s.body.id)).size).toBe(1)
    const { made, glasses } = await rounds()
    expect(made.filter((m) => m.round.key === of.key)).toHaveLength(1)
    expect(glasses).toBe(2)
    // What comes back is what was sent, to the tick.
    expect(made.find((m) => m.round.key === of.key)?.round).toEqual({ ...of, loads: [{ ...of.loads[0], document }] })
    // Nobody parks what is out.
    expect((await say('parked', of)).status).toBe(409)
  })

  it('is taken up by one hand of four that reach for it, on whichever tablet', async () => {
    const { id } = (await say('parked')).body
    expect((await rounds()).parked.map((p) => p.id)).toContain(id)
    const hands = [BAR, OTHER, { as: 'lead' }, { as: 'manager' }]
    const taken = await race(4, (i) => end(id, 'takenUp', hands[i] as typeof BAR))
    expect(taken.map((t) => t.status).sort()).toEqual([200, 409, 409, 409])
    const lost = taken.find((t) => t.status === 409)
    expect(JSON.stringify(lost?.body)).toMatch(/was faster and took it up/)
    expect((await rounds()).parked.map((p) => p.id)).not.toContain(id)
    expect((await end(id, 'dropped')).status).toBe(409)
  })

  it('put aside, taken up, put aside again and finished elsewhere it stays the same round', async () => {
    const of = round()
    const first = (await say('parked', of)).body
    await end(first.id, 'takenUp', OTHER)
    const later = { ...of, well: 'courtyard', ticks: [...of.ticks, 'strain:a'] }
    const second = (await say('parked', later, OTHER)).body
    expect(second.id).not.toBe(first.id)
    const { round: back } = (await end(second.id, 'takenUp')).body
    expect(back).toMatchObject({ key: of.key, well: 'courtyard', ticks: later.ticks })
    expect((await say('made', back as typeof of)).status).toBe(201)
    expect((await rounds()).parked.filter((p) => p.round.key === of.key)).toEqual([])
  })

  it('finished on a tablet that could not say that it took it up, is not put aside any more', async () => {
    const of = round()
    const other = (await say('parked')).body
    const { id } = (await say('parked', of)).body
    expect((await rounds()).parked.map((p) => p.id)).toEqual(expect.arrayContaining([id, other.id]))
    expect((await say('made', of, OTHER)).status).toBe(201)
    const after = (await rounds()).parked.map((p) => p.id)
    expect(after).not.toContain(id)
    expect(after).toContain(other.id)
  })

  it('is thrown away, and that is written down with who did it', async () => {
    const { id } = (await say('parked')).body
    expect((await end(id, 'dropped', OTHER)).status).toBe(200)
    const { entries } = (await server.get<AuditPage>('/api/audit?kind=round', { as: 'manager' })).body
    expect(entries[0]).toMatchObject({
      kind: 'round',
      verb: 'discarded',
      subject: String(id),
      by: 'Bartender Courtyard',
    })
    expect(entries[0]?.detail).toMatchObject({ name: `2 × ${document.name}`, well: 'hearth' })
  })

  it('made while the house was away counts for the night in which it was made', async () => {
    now = new Date('2026-09-02T04:30:00Z')
    const of = round()
    const said = await say('made', of, BAR, { [SAID_AGO]: '3600', 'idempotency-key': 'a-round-that-waited' })
    expect(said.body.saidAt).toBe('2026-09-02T03:30:00.000Z')
    const before = (await rounds()).glasses
    // The bar's day turns at six.
    now = new Date('2026-09-02T06:30:00Z')
    expect(await rounds()).toMatchObject({ made: [], glasses: 0 })
    expect(before).toBeGreaterThanOrEqual(2)
    const late = await say('made', round(), BAR, { [SAID_AGO]: '7200', 'idempotency-key': 'another-that-waited' })
    expect(late.status).toBe(201)
    expect((await rounds()).glasses).toBe(0)
    // What is put aside waits over any number of nights.
    const { id } = (await say('parked')).body
    now = new Date('2026-09-05T20:00:00Z')
    expect((await rounds()).parked.map((p) => p.id)).toContain(id)
  })

  it.each([
    ['a well that is not there', { well: 'attic' }, /round\.well.*there is no well “attic”/],
    ['no drink', { loads: [] }, /a round has a drink/],
    ['a step that is none', { ticks: ['pour a lot'] }, /a step is named like pour:a:2/],
    ['more than a tin could hold', { poured: { 'pour:a:0': 5000 } }, /3000/],
    [
      'a clock of nothing',
      { clocks: { b: { startedAt: '2026-09-01T22:00:00Z' } } },
      /is the clock of a load that is not there/,
    ],
    ['a clock that ran for a week', { clocks: { a: { startedAt: '2026-09-01T22:00:00Z', ranS: 700_000 } } }, /86400/],
    ['a key of another shape', { key: 'one' }, /32 digits and letters/],
  ])('refuses %s, by name, and keeps nothing', async (_what, more, expected) => {
    const before = await rounds()
    const refused = await say('made', round(more) as ReturnType<typeof round>)
    expect(refused.status).toBe(422)
    expect(JSON.stringify(refused.body)).toMatch(expected)
    expect(await rounds()).toEqual(before)
  })

  it('refuses a version that never was, two loads of one letter, and more glasses than a round has', async () => {
    const load = { id: 'a', drink: 'tide-clerk', version: 1, document, glasses: 3 }
    const of = (loads: object[]) => say('made', round({ loads }) as ReturnType<typeof round>)
    expect(JSON.stringify((await of([{ ...load, version: 99 }])).body)).toMatch(
      /there is no version 99 of “tide-clerk”/,
    )
    expect(JSON.stringify((await of([load, load])).body)).toMatch(/two loads have the same letter/)
    const nine = await of(['a', 'b', 'c'].map((id) => ({ ...load, id })))
    expect(JSON.stringify(nine.body)).toMatch(/9 glasses; a round has at most 8/)
    expect((await end(999_999, 'takenUp')).status).toBe(404)
    const { id } = (await say('made')).body
    // A finished round is not there to be taken up.
    expect((await end(id, 'takenUp')).status).toBe(404)
  })

  it('is nothing that a guest hears of', async () => {
    expect((await server.get('/api/rounds', { as: 'viewer' })).status).toBe(403)
    expect((await say('made', round(), { as: 'viewer', called: 'Guest tablet' })).status).toBe(403)
  })
})
