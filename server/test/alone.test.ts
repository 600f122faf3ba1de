/** A device that stood alone: what it may keep, what it reckons by itself, and what becomes of its words when it is back. */

import {
  AUDIENCES_OF_ROLE,
  type AuditPage,
  type Drink,
  type House,
  houseFileSchema,
  KEPT_FOR_BAR,
  KEPT_FOR_GUESTS,
  KEPT_FOR_WRITERS,
  type Markable,
  MOST_LATE_S,
  mayDo,
  type OutMarkSaid,
  type PouredMenu,
  ROLES,
  SAID_AGO,
  type SaidNoteRow,
  SEES,
  type ShelfPart,
  type Tonight,
} from '@conch/contract'
import { pouredIn } from '@conch/core/drink'
import { keysOf } from '@conch/core/schema/keysOf'
import { eveningAfter, type KnownHere, type SaidHere } from '@conch/core/tonight'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { ROUTES } from '../app.ts'
import { DEMO } from '../database/paths.ts'
import { readHouseFolder } from '../readHouseFolder.ts'
import { addressesOf } from './keptAnswers.ts'
import { race } from './race.ts'
import { BACKENDS, openFresh, TestServer, type Who } from './testServer.ts'

const BAR = { as: 'bartender', called: 'Bartender Hearth' }
const OTHER = { as: 'bartender', called: 'Bartender Courtyard' }
const LEAD = { as: 'lead' }
/** Minutes of a test's evening. */
const START = new Date('2026-09-01T20:00:00Z')

describe.each(BACKENDS)('words of a device that stood alone, %s', (backend) => {
  let server: TestServer
  let now = START
  const pass = (minutes: number) => {
    now = new Date(now.getTime() + minutes * 60_000)
  }
  beforeAll(async () => {
    server = new TestServer(await openFresh(backend), () => now)
    await server.demo(houseFileSchema.parse(readHouseFolder(DEMO, now)))
  })
  afterAll(() => server.database.close())

  let key = 0
  const out = (of: string, more: object = {}) => ({ kind: 'ingredient', of, well: null, level: 'out', ...more })
  /** Said so many minutes ago by somebody who had heard the house so far. */
  const late = (path: string, body: unknown, minutes: number, sees?: number, who: Who & Record<string, string> = BAR) =>
    server.send<OutMarkSaid>('POST', path, body, {
      'idempotency-key': `late-word-${++key}`,
      [SAID_AGO]: String(minutes * 60),
      ...(sees === undefined ? {} : { [SEES]: String(sees) }),
      ...who,
    })
  const sequence = async () => (await server.services.held.now()).at.sequence
  const tonight = async () => (await server.get<Tonight>('/api/tonight', BAR)).body
  const isOut = async (of: string) => (await tonight()).outs.some((o) => o.of === of)

  it('stand with when they were said, in the list and in the chain, and nothing else does', async () => {
    const sees = await sequence()
    pass(50)
    const said = await late('/api/outs', out('falernum'), 45, sees)
    expect(said.status).toBe(201)
    const at = new Date(now.getTime() - 45 * 60_000).toISOString()
    expect(said.body).toMatchObject({ saidAt: at, savedAt: now.toISOString() })
    const kept = (await tonight()).outs.find((o) => o.of === 'falernum')
    expect(kept).toMatchObject({ saidAt: at, savedBy: 'Bartender Hearth' })
    // Said as it is sent it is simply said.
    const atOnce = await server.send<OutMarkSaid>('POST', '/api/outs', out('grenadine'), { [SAID_AGO]: '3', ...BAR })
    expect(atOnce.body.saidAt).toBeUndefined()
    const note = await late('/api/drinks/green-pilot/versions/1/notes', { says: 'thin', words: '', well: 'hearth' }, 45)
    expect((note.body as unknown as SaidNoteRow).document).toMatchObject({ saidAt: at })
    const { entries } = (await server.get<AuditPage>('/api/audit')).body
    expect(entries.slice(0, 3).map((e) => [e.kind, e.detail.saidAt])).toEqual([
      ['note', at],
      ['out', undefined],
      ['out', at],
    ])
    // A body says nothing of when: nobody dates their own word.
    expect((await late('/api/outs', out('orgeat', { saidAt: at }), 45)).status).toBe(422)
    for (const of of ['falernum', 'grenadine'])
      await server.send(
        'POST',
        `/api/outs/${(await tonight()).outs.find((o) => o.of === of)?.id}/end`,
        { why: 'back' },
        BAR,
      )
  })

  it('never undo what somebody said since, of the same thing at the same place', async () => {
    const sees = await sequence()
    // Meanwhile it ran out, and was brought.
    const meanwhile = await server.send<OutMarkSaid>('POST', '/api/outs', out('falernum'), LEAD)
    await server.send('POST', `/api/outs/${meanwhile.body.id}/end`, { why: 'back' }, OTHER)
    pass(30)
    const refused = await late('/api/outs', out('falernum'), 25, sees)
    expect(refused.status).toBe(409)
    expect(refused.problem.detail).toContain('Bartender Courtyard said something newer: Falernum with alcohol is back')
    expect(await isOut('falernum')).toBe(false)
    // At another place nobody said anything newer.
    expect((await late('/api/outs', out('falernum', { well: 'courtyard' }), 25, sees)).status).toBe(201)
    // Who heard the last word says the next one.
    expect((await late('/api/outs', out('falernum'), 25, await sequence())).status).toBe(201)
    // A word that was ended by somebody else is ended; how is said.
    const mine = (await tonight()).outs.filter((o) => o.of === 'falernum')
    const [id] = mine.map((o) => o.id)
    await server.send('POST', `/api/outs/${id}/end`, { why: 'back' }, OTHER)
    const ended = await late(`/api/outs/${id}/end`, { why: 'back' }, 10)
    expect([ended.status, ended.problem.detail]).toEqual([
      409,
      expect.stringContaining('Bartender Courtyard was faster'),
    ])
    for (const o of mine.slice(1)) await server.send('POST', `/api/outs/${o.id}/end`, { why: 'back' }, BAR)
  })

  it('do not call out what was made anew since', async () => {
    const sees = await sequence()
    pass(20)
    const made = await server.send('POST', '/api/lots', { ingredient: 'falernum' }, LEAD)
    expect(made.status, made.problem.detail).toBe(201)
    pass(5)
    const refused = await late('/api/outs', out('falernum'), 15, sees)
    expect([refused.status, refused.problem.detail]).toEqual([409, expect.stringContaining('was made since')])
    expect((await late('/api/outs', out('falernum'), 2, await sequence())).status).toBe(201)
    const id = (await tonight()).outs.find((o) => o.of === 'falernum')?.id
    await server.send('POST', `/api/outs/${id}/end`, { why: 'mistake' }, BAR)
    pass(60)
  })

  it('of a house that was restored meanwhile are not taken', async () => {
    const refused = await late('/api/outs', out('falernum'), 5, (await sequence()) + 40)
    expect([refused.status, refused.problem.detail]).toEqual([
      409,
      expect.stringContaining('another state of the house'),
    ])
  })

  it('are done once, however often and from however many hands they come', async () => {
    const before = await sequence()
    const headers = { 'idempotency-key': 'one-tap-of-a-tablet', [SAID_AGO]: '600', [SEES]: String(before), ...BAR }
    const answers = await race(6, () => server.send<OutMarkSaid>('POST', '/api/outs', out('no-such-bottle'), headers))
    expect(new Set(answers.map((a) => a.status))).toEqual(new Set([422]))
    const said = await race(6, () =>
      server.send<OutMarkSaid>('POST', '/api/outs', out('falernum'), { ...headers, 'idempotency-key': 'a-second-tap' }),
    )
    expect(new Set(said.map((a) => `${a.status} ${a.body.id}`)).size).toBe(1)
    expect(await sequence()).toBe(before + 1)
    // Later, and longer ago: it is still the same word.
    pass(10)
    const again = await server.send<OutMarkSaid>('POST', '/api/outs', out('falernum'), {
      ...headers,
      'idempotency-key': 'a-second-tap',
      [SAID_AGO]: '1200',
    })
    expect(again.body.id).toBe(said[0]?.body.id)
    expect(await sequence()).toBe(before + 1)
  })

  it.each([
    [SAID_AGO, '-5'],
    [SAID_AGO, '1.5'],
    [SAID_AGO, 'yesterday'],
    [SAID_AGO, String(MOST_LATE_S + 10_000)],
    [SEES, '99999999999'],
    [SEES, 'all'],
  ])('name what is wrong with %s: %s', async (name, value) => {
    const before = await sequence()
    const sent = { [SAID_AGO]: '600', [name]: value }
    const refused = await server.send('POST', '/api/outs', out('grenadine'), { ...sent, ...BAR })
    expect([refused.status, refused.problem.fields?.[0]?.field]).toEqual([422, name])
    expect(await sequence()).toBe(before)
  })

  it('are taken for just those things that a device keeps', async () => {
    const taking = ROUTES.filter((r) => r.mayBeLate).map((r) => `${r.method} ${r.path}`)
    expect(taking.sort()).toEqual([
      'post /api/drinks/{slug}/versions/{number}/notes',
      'post /api/lots/{id}/events',
      'post /api/outs',
      'post /api/outs/{id}/end',
      'post /api/practice',
      'post /api/rounds',
    ])
    // Elsewhere it says nothing, and dates nothing.
    const settings = (await server.get<House>('/api/house')).body
    expect(settings.revisions).toBeDefined()
    const chosen = await server.send(
      'POST',
      '/api/drinks/green-pilot/tonight',
      { well: null, kind: 'off', words: 'slow', sees: null },
      { [SAID_AGO]: '600', ...LEAD },
    )
    expect(chosen.status).toBe(201)
    const [newest] = (await server.get<AuditPage>('/api/audit')).body.entries
    expect([newest?.kind, newest?.detail.saidAt]).toEqual(['tonight', undefined])
  })
})

describe('what a device keeps', () => {
  let server: TestServer
  beforeAll(async () => {
    server = new TestServer(await openFresh('pglite'), () => START)
    await server.demo(houseFileSchema.parse(readHouseFolder(DEMO, START)))
  })
  afterAll(() => server.database.close())

  it('is the same for everybody who tends bar, at every address, and is kept for nobody who reads more', async () => {
    const addresses = await addressesOf(server)
    const patternOf = (place: string) => new RegExp(`^${place.replace(/\{\w+\}/g, '[^/]+')}(\\?|$)`)
    for (const place of [...KEPT_FOR_BAR, ...KEPT_FOR_GUESTS]) {
      const route = ROUTES.find((r) => r.method === 'get' && r.path === place)
      expect(route, place).toBeDefined()
      const asked = addresses.filter((a) => patternOf(place).test(a))
      expect(asked.length, place).toBeGreaterThan(0)
      if (!(KEPT_FOR_BAR as readonly string[]).includes(place)) continue
      let answered = 0
      for (const address of asked) {
        const [lead, one, other] = await Promise.all([LEAD, BAR, OTHER].map((who) => server.get(address, who)))
        // What is sealed is refused, to all of them alike; a refusal is not kept.
        const isAnswered = one?.status === 200
        if (isAnswered) answered += 1
        for (const same of [lead, other]) {
          expect(same?.status, address).toBe(one?.status)
          if (isAnswered) expect(same?.body, address).toEqual(one.body)
        }
      }
      expect(answered, place).toBeGreaterThan(0)
    }
  })

  it('of what is being written is kept for those who may write it, and nobody else could ask for it', async () => {
    for (const place of KEPT_FOR_WRITERS) {
      const route = ROUTES.find((r) => r.method === 'get' && r.path === place)
      const roles = keysOf(ROLES).filter((role) => route && mayDo(role, route.act))
      expect(roles, place).toEqual(['manager', 'lead'])
      expect(AUDIENCES_OF_ROLE.lead).toContain('writers')
    }
    for (const role of keysOf(ROLES)) {
      const all = AUDIENCES_OF_ROLE[role]
      expect(all.includes('writers'), role).toBe(role === 'lead')
      if (mayDo(role, 'openSealed')) expect(all).toEqual([])
    }
  })

  it('lets it reckon what is out, and which drinks are dark, as the house does', async () => {
    const get = async <T>(path: string) => (await server.get<T>(path, BAR)).body
    const house = await get<House>('/api/house')
    const menus = await Promise.all(house.wells.map((w) => get<PouredMenu>(`/api/menu/poured?well=${w.slug}`)))
    const lines = menus[0]?.chapters.flatMap((c) => c.drinks) ?? []
    const poured = await Promise.all(
      lines.map(async ({ drink, version, name }) => {
        const document = (await get<Drink>(`/api/drinks/${drink}`)).versions.find((v) => v.number === version)?.document
        if (!document) throw new Error(`no version ${version} of ${drink}`)
        return { drink, version, name, document }
      }),
    )
    const slugs = [
      ...pouredIn(
        poured.map((p) => p.document),
        house.slots,
      ),
    ].sort()
    const part = await get<ShelfPart>(`/api/shelf?of=${slugs.join(',')}`)
    const known: KnownHere = { ...house, poured, ingredients: part.ingredients, lots: part.lots }
    const sortedDrinks = (all: readonly { drink: string }[]) => [...all].sort((a, b) => (a.drink < b.drink ? -1 : 1))
    const sortedOut = (outAt: Tonight['outAt']) =>
      Object.fromEntries(
        Object.entries(outAt).map(([well, here]) => [
          well,
          Object.fromEntries(
            Object.entries(here).map(([kind, all]) => [
              kind,
              // What the menu does not pour this device need not know.
              [...all].filter((slug) => kind !== 'ingredients' || slugs.includes(slug)).sort(),
            ]),
          ),
        ]),
      )
    const markables = (await get<Markable[]>('/api/tonight/markables')).filter((m) => m.kind !== 'lot')
    expect(markables.length).toBeGreaterThan(40)
    let before = await get<Tonight>('/api/tonight')
    const said: OutMarkSaid[] = []
    let darkened = 0
    for (const [n, { kind, of, name }] of markables.entries()) {
      const well = [null, 'hearth', 'courtyard'][n % 3] ?? null
      const document = { kind, of, well, level: n % 7 === 6 ? ('low' as const) : ('out' as const) }
      const word: SaidHere<OutMarkSaid> = {
        is: { ...document, id: -1, name, savedBy: 'Bartender Hearth', savedAt: '' },
      }
      const here = eveningAfter(before, [word], known)
      const answer = await server.send<OutMarkSaid>('POST', '/api/outs', document, BAR)
      expect(answer.status).toBe(201)
      said.push(answer.body)
      const after = await get<Tonight>('/api/tonight')
      expect(sortedDrinks(here.drinks), name).toEqual(sortedDrinks(after.drinks))
      expect(sortedOut(here.outAt), name).toEqual(sortedOut(after.outAt))
      darkened = Math.max(darkened, after.drinks.length)
      // Now and then something comes back, which is reckoned likewise.
      const back = n % 3 === 2 ? said.splice(n % said.length, 1)[0] : undefined
      if (back) {
        const without = eveningAfter(after, [{ ended: back.id }], known)
        await server.send('POST', `/api/outs/${back.id}/end`, { why: 'back' }, BAR)
        before = await get<Tonight>('/api/tonight')
        expect(sortedDrinks(without.drinks), back.name).toEqual(sortedDrinks(before.drinks))
        expect(sortedOut(without.outAt), back.name).toEqual(sortedOut(before.outAt))
      } else before = after
    }
    expect(darkened).toBe(poured.length)
  })
})
