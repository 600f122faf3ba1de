/**
 * Twenty thousand requests that nobody should make, over every place of the API, as each role and as nobody: whatever is
 * sent is answered with a reason or with an answer, never with a fault of ours; and nothing is half-saved.
 */

import { type Asker, houseFileSchema, type VerifyReport } from '@conch/contract'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { ROUTES } from '../app.ts'
import { DEMO } from '../database/paths.ts'
import { readHouseFolder } from '../readHouseFolder.ts'
import { type Dice, diceOf } from '../testing/dice.ts'
import { heldAndStored, staleAnswers } from './keptAnswers.ts'
import { openFresh, TestServer } from './testServer.ts'

const WHO: Asker[] = ['nobody', 'viewer', 'bartender', 'lead', 'manager']
const EACH = 4_000

/** Asked elsewhere: they answer with everything there is, and take their time. */
const SLOW = new Set(['/api/export', '/api/verify'])
const PLACES = ROUTES.filter((r) => !SLOW.has(r.path))

const IN_A_PATH = [
  'tide-clerk',
  'lime-juice',
  'ferry-nine',
  'hearth',
  '1',
  '2',
  '0',
  '-1',
  '1.5',
  '99999999999999999999',
  '%00',
  '..%2F..%2Fetc',
  '%E2%82',
  'a'.repeat(5_000),
  '%F0%9F%A6%9C',
  "'%3Bdrop%20table%20people%3B--",
  '__proto__',
  'null',
  '00000000-0000-4000-8000-000000000000',
]
const IN_A_QUERY = [
  '',
  '?',
  '?limit=-1',
  '?limit=1e99',
  '?from=999999999999',
  '?words=%00',
  `?words=${'%'.repeat(400)}`,
  "?of=',(select%20version())",
  '?well=nowhere',
  '?well=hearth&on=lime-juice',
  '?who=1%20or%201=1',
  '?before=1&from=2026-99-99',
  '?__proto__[x]=1',
  '?shown=all&shown=all',
]
/** What stands in place of something in a body. */
const ODD: unknown[] = [
  null,
  true,
  '',
  'x'.repeat(20_000),
  '\u0000',
  '\ud800',
  -1,
  1e308,
  -0,
  0.1 + 0.2,
  2 ** 53,
  [],
  {},
  [[[[[]]]]],
  { __proto__: 1, constructor: 2 },
  [null],
  '2026-02-31',
  '<script>alert(1)</script>',
  "'; drop table people; --",
]
const BROKEN = ['', '{', 'null', '[]', '"x"', '1e400', `${'['.repeat(4_000)}`, '{"a":1,"a":2}', '\u0000', '{"name":']
const HEADERS: Record<string, string>[] = [
  {},
  {},
  {},
  {},
  { origin: 'https://elsewhere.example' },
  { 'content-type': 'text/plain' },
  { 'content-type': 'application/json; charset=utf-16' },
  { 'idempotency-key': 'x' },
  { 'idempotency-key': 'the-same-key-for-all' },
  { 'if-none-match': '"x", *' },
  { 'conch-person': '99' },
  { 'x-forwarded-for': '1.2.3.4', 'x-forwarded-host': 'evil.example' },
  { 'sec-fetch-site': 'cross-site' },
  { host: 'evil.example' },
]

/** A document with something odd in one place of it, at any depth; or a key too many. */
function bent(value: unknown, dice: Dice): unknown {
  if (Array.isArray(value) && value.length > 0 && dice.uniform() < 0.8) {
    const i = Math.floor(dice.uniform() * value.length)
    return value.map((v, n) => (n === i ? bent(v, dice) : v))
  }
  if (typeof value === 'object' && value !== null && !Array.isArray(value) && dice.uniform() < 0.85) {
    const keys = Object.keys(value)
    if (keys.length === 0 || dice.uniform() < 0.1) return { ...value, unheardOf: dice.pick(ODD) }
    const key = dice.pick(keys)
    const { [key]: was, ...others } = value as Record<string, unknown>
    return dice.uniform() < 0.15 ? others : { ...others, [key]: bent(was, dice) }
  }
  return dice.pick(ODD)
}

describe('whatever is sent', () => {
  let server: TestServer
  let samples: unknown[]
  beforeAll(async () => {
    // Its clock stands: wrong words wait, and cost nothing.
    server = new TestServer(await openFresh('pglite'), () => new Date('2026-09-01T20:00:00Z'))
    await server.demo(houseFileSchema.parse(readHouseFolder(DEMO, new Date('2026-09-01T12:00:00Z'))))
    const { ingredients, wells, glasses, slots, settings } = (await server.house()).body
    const drink = (await server.get<{ versions: { document: object }[] }>('/api/drinks/tide-clerk')).body
    const { plan, revision } = (await server.get<{ plan: object; revision: number }>('/api/menu')).body
    const documents = [...ingredients.slice(0, 30), ...wells, ...glasses, ...slots, settings]
    samples = [
      ...documents.flatMap((document) => [{ document, revision: 1 }, document]),
      ...drink.versions.map((v) => ({ document: v.document, revision: 0, baseVersion: 1 })),
      ...drink.versions.map((v) => v.document),
      { plan, revision },
      { name: 'Ada', role: 'lead', secret: '4082', isActive: true, revision: 1 },
      { name: 'Manager', secret: '0000' },
      {
        ingredient: 'lime-juice',
        factor: 1,
        weighed: [{ ingredient: 'lime-juice', actualG: 1 }],
        measured: { brix: 9 },
      },
      {
        well: 'hearth',
        station: 'mixer',
        liquidBeforeG: 100,
        ice: [{ kind: 'crushed', massG: 150 }],
        durationS: 4,
        afterG: 150,
      },
      { question: 'which?', subjects: [{ drink: 'tide-clerk', version: 1 }], tasters: ['Ann', 'Ben'] },
      { csv: 'name,strength\nx,40\n', mode: 'check' },
      { code: 'AAAA2222', name: 'x', well: 'hearth', revision: 1 },
      { ingredient: 'ferry-nine', factor: 7, hands: ['Lead', 'Manager'] },
      { name: 'Edition', note: '', planRevision: revision },
      { event: { kind: 'measured', measured: { abvPct: 40 } } },
    ]
  })
  afterAll(async () => {
    await server.services.work.close()
    await server.database.close()
  })

  it.each(WHO)(
    'by %s, four thousand times, is no fault of ours',
    async (role) => {
      const dice = diceOf(WHO.indexOf(role) + 1)
      const faults: string[] = []
      const statuses = new Map<number, number>()
      let own: Record<string, string> = {}
      for (let i = 0; i < EACH; i++) {
        // Some of what is asked signs them out.
        if (i % 100 === 0 && role !== 'nobody') {
          const id = await server.idOf({ as: role })
          own = { cookie: `conch=${await server.tokenOf(id)}`, origin: 'http://localhost' }
        }
        const place = PLACES[i % PLACES.length] ?? dice.pick(PLACES)
        const path =
          place.path.replace(/\{\w+\}/g, () => dice.pick(IN_A_PATH)) +
          (dice.uniform() < 0.4 ? dice.pick(IN_A_QUERY) : '')
        const isRead = place.method === 'get'
        const text =
          dice.uniform() < 0.15
            ? dice.pick(BROKEN)
            : JSON.stringify(dice.uniform() < 0.1 ? dice.pick(samples) : bent(dice.pick(samples), dice))
        const headers = {
          ...(dice.uniform() < 0.05 ? { cookie: `conch=${'z'.repeat(Math.floor(dice.uniform() * 200))}` } : own),
          'content-type': 'application/json',
          ...dice.pick(HEADERS),
        }
        const body = isRead || place.method === 'delete' ? {} : { body: text }
        const response = await server.app.request(path, { method: place.method.toUpperCase(), headers, ...body })
        const answer = await response.text()
        statuses.set(response.status, (statuses.get(response.status) ?? 0) + 1)
        if (response.status >= 500)
          faults.push(`${place.method} ${path.slice(0, 200)} ${text.slice(0, 300)}: ${answer}`)
        // A refusal says what it is about.
        else if (response.status >= 400 && !/"detail":"[^"]{5,}/.test(answer))
          faults.push(`${place.method} ${path.slice(0, 200)}: ${response.status} ${answer.slice(0, 200)}`)
      }
      expect(faults.slice(0, 5)).toEqual([])
      expect([...statuses.values()].reduce((a, b) => a + b, 0)).toBe(EACH)
      // Not all of it stopped at the first door.
      expect(statuses.size).toBeGreaterThan(role === 'nobody' ? 4 : 5)
    },
    300_000,
  )

  it('and nothing of it is half-saved: the chain holds, and what is held is what is stored', async () => {
    const report = (await server.get<VerifyReport>('/api/verify')).body
    expect(report.problems).toEqual([])
    expect(report.editions.flatMap((e) => e.problems)).toEqual([])
    await server.services.glasses.settle()
    expect(await staleAnswers(server)).toEqual([])
    const [held, stored] = await heldAndStored(server)
    expect(held).toEqual(stored)
  }, 120_000)
})
