/** Who may come in where: every place of the API, every role, and nobody. */

import { createServer } from 'node:http'
import type { AddressInfo } from 'node:net'
import { type Asker, houseFileSchema, mayDo, type PublishedMenu, type Role } from '@conch/contract'
import { getRequestListener } from '@hono/node-server'
import pino from 'pino'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { createApp, ROUTES } from '../app.ts'
import { DEMO } from '../database/paths.ts'
import { hostNames } from '../http/guards.ts'
import { limitRate } from '../http/rate.ts'
import { readHouseFolder } from '../readHouseFolder.ts'
import { A_HOUSE, aDocument, openFresh, TestServer } from './testServer.ts'

let server: TestServer
beforeAll(async () => {
  server = new TestServer(await openFresh('pglite'))
  await server.demo(houseFileSchema.parse(readHouseFolder(DEMO)))
})
afterAll(() => server.database.close())

const VALUES: Record<string, string> = { slug: 'tide-clerk', number: '1', id: '1', revision: '1' }
const addressOf = (path: string) => path.replace(/\{(\w+)\}/g, (_, name: string) => VALUES[name] ?? 'x')
const EVERY = ROUTES.map((r) => ({ name: `${r.method.toUpperCase()} ${r.path}`, ...r }))

/** Coming in is for anybody who knows a secret: it is tried where people sign in. */
const BY_A_SECRET = ['/api/sign-in', '/api/claim', '/api/devices']

describe.each<Asker>(['nobody', 'viewer', 'bartender', 'lead', 'manager'])('as %s', (role) => {
  const who = { as: role === 'nobody' ? '' : role }
  it('every place opens, or says who may: no other, and before anything is read', async () => {
    expect(EVERY.length).toBeGreaterThan(45)
    for (const { name, method, path, act } of EVERY) {
      // It would end what the others are asked with.
      if (path.startsWith('/api/sign-out') || path === '/api/lock') continue
      // What is sent is no body at all: whoever may not come in hears that first.
      const headers = { ...who, 'content-type': 'text/plain' }
      const response = await server.app.request(addressOf(path), {
        method: method.toUpperCase(),
        headers: { ...(await server.header(who)), 'content-type': headers['content-type'] },
        ...(method === 'get' || method === 'delete' ? {} : { body: 'x' }),
      })
      const isShut = response.status === 401 || response.status === 403
      if (act === 'signIn' && BY_A_SECRET.includes(path)) continue
      expect(`${name}: ${isShut ? 'shut' : 'open'}`).toBe(`${name}: ${mayDo(role, act) ? 'open' : 'shut'}`)
      expect(`${name}: ${response.status < 500}`).toBe(`${name}: true`)
      if (isShut)
        expect(((await response.json()) as { code: string }).code).toBe(role === 'nobody' ? 'nobody' : 'notAllowed')
    }
  })
})

describe('nobody', () => {
  it('may see whether the house is well, how one signs in, and what the API is', async () => {
    const open = EVERY.filter((r) => mayDo('nobody', r.act)).map((r) => r.name)
    expect(open.sort()).toEqual([
      'GET /api/import/{id}',
      'GET /api/ready',
      'GET /api/sign-in',
      'POST /api/claim',
      'POST /api/devices',
      'POST /api/house',
      'POST /api/import',
      'POST /api/import/{id}/cancel',
      'POST /api/preview',
      'POST /api/sign-in',
    ])
    expect((await server.get('/api/openapi.json', { as: '' })).status).toBe(200)
    expect((await server.get('/api/alive', { as: '' })).body).toEqual({ alive: true })
  })

  it('cannot set up or fill a house that is there', async () => {
    expect((await server.send('POST', '/api/house', A_HOUSE, { as: '' })).problem.code).toBe('exists')
    expect((await server.bring('{}')).problem?.code).toBe('exists')
  })
})

describe('nobody who computes', () => {
  it('brings all figures along, and nothing of the house', async () => {
    const own = { name: 'Own', pours: [{ figures: { abvPct: 40 }, volumeMl: 60 }] }
    expect((await server.send('POST', '/api/preview', own, { as: '' })).status).toBe(200)
    const theirs = aDocument({ pours: [{ ingredient: 'tamber-lightly-aged', volumeMl: 60 }] })
    expect(await server.send('POST', '/api/preview', theirs, { as: '' })).toMatchObject({
      status: 422,
      problem: { code: 'cannotCompute' },
    })
  })
})

describe('a viewer', () => {
  it('reads drinks, allergens and whole per cents, and nothing of what is poured', async () => {
    const menu = (await server.get<PublishedMenu>('/api/published-menu', { as: 'viewer' })).body
    expect(menu.chapters.flatMap((c) => c.drinks).length).toBeGreaterThan(10)
    const text = JSON.stringify(menu)
    const { ingredients } = await server.wholeShelf()
    expect(ingredients.length).toBeGreaterThan(50)
    for (const { name, slug } of ingredients) {
      expect(`${name}: ${text.includes(`"${slug}"`)}`).toBe(`${name}: false`)
    }
    expect(text).not.toMatch(/amount|pours|ingredient|volumeMl|recipe/)
    expect(menu.chapters[0]?.drinks[0]?.strengthPct).toBe(Math.round(menu.chapters[0]?.drinks[0]?.strengthPct ?? 0.5))
  })
})

describe('people', () => {
  it('come, change and leave, but not the last manager; their name of then stays in history', async () => {
    const made = await server.send<{ id: number }>('POST', '/api/people', { name: 'Ada', role: 'lead' })
    expect(made.status).toBe(201)
    expect((await server.send('POST', '/api/people', { name: 'Ada', role: 'lead' })).problem.code).toBe('exists')
    const ada = { cookie: `conch=${await server.tokenOf(made.body.id)}` }
    await server.send('POST', '/api/drinks', { name: 'Ada’s Own' }, ada)
    const put = (id: number, person: { name: string; role: Role; isActive: boolean; revision: number }, who = {}) =>
      server.send('PUT', `/api/people/${id}`, person, who)
    expect((await put(made.body.id, { name: 'Ada B.', role: 'lead', isActive: false, revision: 1 })).status).toBe(200)
    expect((await server.get('/api/drinks', ada)).problem.detail).toContain('sign in as a')
    expect((await server.get<{ draft: { savedBy: string } }>('/api/drinks/ada-s-own')).body.draft.savedBy).toBe('Ada')
    expect((await put(1, { name: 'Manager', role: 'lead', isActive: true, revision: 1 })).problem.detail).toBe(
      'role: Manager is the last manager; make somebody else one first',
    )
    expect((await put(2, { name: 'Manager', role: 'lead', isActive: true, revision: 1 })).problem.detail).toContain(
      '“Manager” is somebody else here',
    )
    expect((await put(2, { name: 'Lead', role: 'lead', isActive: true, revision: 9 })).status).toBe(409)
    expect((await put(2, { name: 'Lead', role: 'lead', isActive: true, revision: 1 }, { as: 'lead' })).status).toBe(403)
  })
})

describe('an address', () => {
  it.each(['localhost', 'localhost:4600', '127.0.0.1:4600', '[::1]:4600'])('%s is the house’s', async (host) => {
    expect((await server.get('/api/ready', { as: '', host })).status).toBe(200)
  })
  it('of another name is not, whoever asks: a name bent to this machine', async () => {
    const { problem } = await server.get('/api/house', { host: 'menu.example:4600' })
    expect(problem).toMatchObject({ status: 421, code: 'wrongHost' })
    expect((await server.get('/api/house', { host: `${'x'.repeat(5000)}.example` })).status).toBe(421)
  })
  it('is added by whoever serves it; open to all it has the names of the machine', () => {
    expect(hostNames('127.0.0.1', ['bar.lan']).has('bar.lan')).toBe(true)
    expect(hostNames('127.0.0.1').size).toBe(3)
    expect(hostNames('0.0.0.0').size).toBeGreaterThan(3)
  })
  it.each([
    ['its own page', { origin: 'http://localhost' }, 201],
    ['its own page, by the browser’s word', { 'sec-fetch-site': 'same-origin' }, 201],
    ['no page at all', { origin: '' }, 421],
    ['another port of this machine', { 'sec-fetch-site': 'same-site' }, 421],
    ['another page', { origin: 'http://menu.example' }, 421],
    ['a page without a name', { origin: 'null' }, 421],
    ['a page of another site, by the browser’s word', { 'sec-fetch-site': 'cross-site' }, 421],
  ])('is written to from %s', async (name, headers, status) => {
    const answer = await server.send('POST', '/api/drinks', { name: `By ${name}` }, { host: 'localhost', ...headers })
    expect(answer.status).toBe(status)
  })
})

describe('too much', () => {
  it('of one sign-in is refused with a wait, and nobody else is kept from asking', async () => {
    const app = createApp({ ...server.services, rate: limitRate(5), log: pino({ level: 'silent' }) })
    const ask = async (as: string) => app.request('/api/menu', { headers: await server.header({ as }) })
    for (let i = 0; i < 5; i++) expect((await ask('lead')).status).toBe(200)
    const refused = await ask('lead')
    expect([refused.status, refused.headers.get('retry-after')]).toEqual([429, '10'])
    expect(await refused.json()).toMatchObject({ code: 'tooMany', waitS: 10 })
    expect((await ask('bartender')).status).toBe(200)
    // Another cookie each time is nobody, from one address.
    const strangers = Array.from({ length: 402 }, (_, i) =>
      app.request('/api/sign-in', { headers: { cookie: `conch=${i}` } }),
    )
    const statuses = (await Promise.all(strangers)).map((r) => r.status)
    expect(statuses.filter((s) => s === 200)).toHaveLength(400)
  })
})

describe('the log', () => {
  it('says who asked for what and how long it took, and never what was said', async () => {
    const lines: string[] = []
    const log = pino({ level: 'info' }, { write: (line: string) => void lines.push(line) })
    const app = createApp({ ...server.services, log })
    const headers: Record<string, string> = {
      ...(await server.header({ as: 'manager' })),
      'content-type': 'application/json',
    }
    const said = ['the eel is awake', '37.131', 'only-the-maker-knows']
    const send = (method: string, path: string, body: unknown) =>
      app.request(path, { method, headers, body: JSON.stringify(body) })
    await send('POST', '/api/sign-in', { name: 'Manager', secret: said[0] })
    await send('PUT', '/api/ingredients/ferry-nine', { document: { note: said[2], share: said[1] }, revision: 1 })
    await send('POST', '/api/drinks', { name: 7, note: said[2] })
    await app.request('/api/shelf?of=ferry-nine', { headers })
    expect(lines.filter((l) => l.includes('"request"'))).toHaveLength(4)
    expect(lines.join()).toContain('"person":"Manager"')
    for (const word of [...said, headers.cookie ?? 'conch=', 'tamber-light'])
      expect(`${word}: ${lines.join().includes(word)}`).toBe(`${word}: false`)
  })
})

describe('an answer', () => {
  it('that one has already is not sent again, until something changed', async () => {
    const first = await server.file('/api/menu')
    const etag = first.headers.get('etag') ?? ''
    expect(etag).not.toBe('')
    const again = await server.file('/api/menu', { 'if-none-match': etag })
    expect([again.status, again.text]).toEqual([304, ''])
    const { plan, revision } = JSON.parse(first.text)
    await server.send('PUT', '/api/menu', { plan: { chapters: plan.chapters.slice(1) }, revision })
    expect((await server.file('/api/menu', { 'if-none-match': etag })).status).toBe(200)
  })
  it('differs by who asks, and so does its tag', async () => {
    const tags = await Promise.all(
      ['manager', 'bartender'].map(async (as) =>
        (await server.file('/api/shelf?of=ferry-nine', { as })).headers.get('etag'),
      ),
    )
    expect(tags[0]).not.toBe(tags[1])
  })
})

describe('over a real connection', () => {
  it('a body that is too large, or that nobody may send, is answered and not cut off', async () => {
    const http = createServer(getRequestListener(server.app.fetch))
    await new Promise<void>((resolve) => http.listen(0, '127.0.0.1', resolve))
    const url = `http://127.0.0.1:${(http.address() as AddressInfo).port}`
    const body = JSON.stringify({ name: 'x'.repeat(30_000_000) })
    const send = (path: string, headers: Record<string, string>) =>
      fetch(url + path, { method: 'POST', body, headers: { 'content-type': 'application/json', ...headers } })
    const person = { ...(await server.header({ as: 'manager' })), origin: url }
    expect((await send('/api/drinks', person)).status).toBe(413)
    expect((await send('/api/drinks', {})).status).toBe(401)
    expect((await send('/api/import', {})).status).toBe(409)
    http.closeAllConnections()
    http.close()
  })
})

describe('what was a fault of ours', () => {
  const spirit = (abvPct: number) => ({
    slug: 'new-bottle',
    name: 'New bottle',
    kind: 'spirit',
    figures: {
      abvPct: { value: abvPct, basis: 'label' },
      sugarGPer100Ml: { value: 0, basis: 'label' },
      acidGPer100Ml: { value: 0, basis: 'label' },
    },
  })
  it.each([-1, 101, 1e9])('a strength of %s per cent is refused by its field', async (abvPct) => {
    const answer = await server.send('PUT', '/api/ingredients/new-bottle', { document: spirit(abvPct), revision: 0 })
    expect(answer.status).toBe(422)
    expect(answer.problem.fields?.[0]?.field).toBe('document.figures.abvPct.value')
  })
  it('an import with a use-by before the day it was made is refused', async () => {
    const empty = new TestServer(await openFresh('pglite'))
    const file = readHouseFolder(DEMO)
    const lots = [{ ...file.lots?.[0], madeOn: '2026-05-02', useBy: '2026-05-01' }]
    const state = await empty.bring(JSON.stringify({ ...file, lots }), 'application/json')
    expect(state).toMatchObject({ state: 'refused', problem: { code: 'invalid' } })
    expect(state.problem?.detail).toBe('useBy: is before the day it was made')
    await empty.database.close()
  })
  it('a table of nonsense is refused, and of too many columns, in no time', async () => {
    const post = (csv: string) => server.send('POST', '/api/ingredients.csv', { csv, mode: 'check' })
    expect((await post(`name${',x'.repeat(400_000)}\n`)).problem.detail).toMatch(
      /^csv: its first line has \d+ columns; at most 200/,
    )
    const rows = `name,strength\n${'"",nonsense\n'.repeat(40_000)}`
    const { status, body } = await server.send<{ problems: unknown[] }>('POST', '/api/ingredients.csv', {
      csv: rows,
      mode: 'check',
    })
    expect(status).toBe(200)
    expect(body.problems).toHaveLength(500)
  })
})

describe('a night that crosses midnight', () => {
  it('west of Greenwich a lot pressed at half past one belongs to the night before, on every day it names', async () => {
    // 01:30 on 10 November in New York.
    const west = new TestServer(await openFresh('pglite'), () => new Date('2026-11-10T06:30:00Z'))
    await west.send('POST', '/api/house', {
      ...A_HOUSE,
      name: 'West',
      clock: { timeZone: 'America/New_York', dayTurnsAtHour: 6 },
    })
    const lot = (
      await west.send<{ id: number; madeOn: string; useBy: string }>('POST', '/api/lots', { ingredient: 'lime-juice' })
    ).body
    expect([lot.madeOn, lot.useBy]).toEqual(['2026-11-09', '2026-11-10'])
    const tomorrow = { ingredient: 'lime-juice', madeOn: '2026-11-10' }
    expect((await west.send('POST', '/api/lots', tomorrow)).problem.detail).toBe(
      'madeOn: 10 Nov 2026 is not yet; at the latest 9 Nov 2026',
    )
    await west.database.close()
  })
  it('a zone that is none is refused by its field', async () => {
    const other = new TestServer(await openFresh('pglite'))
    const clock = { timeZone: 'Marrow/Quay', dayTurnsAtHour: 6 }
    const answer = await other.send('POST', '/api/house', { ...A_HOUSE, clock })
    expect(answer.problem.fields).toEqual([
      {
        field: 'clock.timeZone',
        message: '“Marrow/Quay” is no time zone; name one like Europe/Lisbon or America/New_York',
      },
    ])
    await other.database.close()
  })
})
