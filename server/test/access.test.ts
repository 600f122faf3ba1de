/** Coming in, being kept out, and leaving: at the door, on both databases. */

import type { AuditPage, Device, PersonSignIn, SignInState, You } from '@conch/contract'
import { sql } from 'drizzle-orm'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { COPIED } from '../copy/tables.ts'
import { race } from './race.ts'
import { A_HOUSE, BACKENDS, openFresh, TestServer } from './testServer.ts'

const PIN = '5927'
const PASSPHRASE = A_HOUSE.secret

describe.each(BACKENDS)('the door on %s', (backend) => {
  let server: TestServer
  /** Of the house; a test moves it. */
  let at = new Date('2026-05-01T18:00:00Z').getTime()
  const wait = (s: number) => {
    at += s * 1000
  }
  beforeAll(async () => {
    server = new TestServer(await openFresh(backend), () => new Date(at))
    await server.setUp()
  })
  afterAll(() => server.database.close())

  async function newcomer(name: string, role = 'bartender', secret = PIN): Promise<number> {
    const made = await server.send<{ id: number }>('POST', '/api/people', { name, role, secret })
    expect(made.problem.detail).toBeUndefined()
    return made.body.id
  }
  const doorOf = async (headers: { cookie: string }) => (await server.get<SignInState>('/api/sign-in', headers)).body
  const signInsOf = async (id: number) =>
    (await server.get<PersonSignIn[]>('/api/sign-ins')).body.find((s) => s.personId === id)
  const reads = async (headers: { cookie: string }) => (await server.get('/api/house', headers)).status

  const aCode = async (well: string | null = 'yard') =>
    (await server.send<{ code: string }>('POST', '/api/device-codes', { name: 'Hatch', well })).body.code

  /** A tablet that a manager enrolled. @returns its cookie */
  async function aTablet(): Promise<string> {
    const code = await aCode()
    const response = await server.app.request('/api/devices', {
      method: 'POST',
      headers: { 'content-type': 'application/json', origin: 'http://localhost' },
      body: JSON.stringify({ code: `${code.slice(0, 4)}-${code.slice(4).toLowerCase()}` }),
    })
    expect(response.status).toBe(201)
    const [cookie = ''] = response.headers.getSetCookie()
    expect(cookie).toMatch(/HttpOnly/)
    return cookie.split(';')[0] ?? ''
  }

  it('lets the first manager in by setting the house up, and again by name and passphrase', async () => {
    const first = await server.comeIn(' manager', PASSPHRASE)
    expect(first).toMatchObject({ status: 200, body: { name: 'Manager', role: 'manager', mustChange: false } })
    expect(await reads(first.headers)).toBe(200)
    expect((await doorOf(first.headers)).you?.name).toBe('Manager')
  })

  it('gives a cookie that no script reads, that no other page sends, and that is nowhere in the database', async () => {
    const response = await server.app.request('/api/sign-in', {
      method: 'POST',
      headers: { 'content-type': 'application/json', origin: 'http://localhost' },
      body: JSON.stringify({ name: 'Manager', secret: PASSPHRASE }),
    })
    const [cookie = ''] = response.headers.getSetCookie()
    expect(cookie).toMatch(/^conch=[\w-]{43}; Max-Age=57600; Path=\/; HttpOnly; SameSite=Strict$/)
    const token = /^conch=([\w-]+)/.exec(cookie)?.[1] ?? 'none'
    const rows = await server.database.db.execute(sql`select * from sessions`)
    expect(JSON.stringify(rows)).not.toContain(token)
  })

  it('over an encrypted line, by the word of a proxy that is trusted, keeps the cookie to such lines', async () => {
    const proxied = async (trusts: boolean) => {
      const { createApp } = await import('../app.ts')
      const { default: pino } = await import('pino')
      const app = createApp({
        ...server.services,
        log: pino({ level: 'silent' }),
        hosts: new Set(['bar.example', 'localhost']),
        trustsProxy: trusts,
      })
      const response = await app.request('http://localhost/api/sign-in', {
        method: 'POST',
        headers: {
          'content-type': 'application/json',
          host: trusts ? 'inside' : 'localhost',
          origin: trusts ? 'https://bar.example' : 'http://localhost',
          'x-forwarded-proto': 'https',
          'x-forwarded-host': 'bar.example',
          'x-forwarded-for': '203.0.113.9, 198.51.100.7',
        },
        body: JSON.stringify({ name: 'Manager', secret: PASSPHRASE }),
      })
      return response.headers.getSetCookie()[0] ?? ''
    }
    expect(await proxied(true)).toMatch(/^__Host-conch=.*; Secure/)
    // Anybody can say so: without being told to, it is not believed.
    expect(await proxied(false)).toMatch(/^conch=/)
  })

  it('says the same of a wrong word and of a name that nobody has', async () => {
    await newcomer('Known')
    const wrong = await server.comeIn('Known', '0001')
    const nobody = await server.comeIn('Unknown', '0001')
    expect(wrong.problem).toEqual(nobody.problem)
    expect(wrong.problem).toMatchObject({ code: 'wrongSecret', status: 401 })
    expect(wrong.headers.cookie).toBe('')
  })

  it('makes a wrong hand wait longer each time, and listens at once to a right word in its turn', async () => {
    const id = await newcomer('Slips')
    for (let i = 0; i < 3; i++) expect((await server.comeIn('Slips', '0001')).status).toBe(401)
    // The fourth is listened to, and costs two seconds; the next one four.
    expect((await server.comeIn('Slips', '0001')).status).toBe(401)
    expect(await server.comeIn('Slips', PIN)).toMatchObject({ status: 429, problem: { code: 'tooMany', waitS: 2 } })
    wait(2)
    expect((await server.comeIn('Slips', '0001')).status).toBe(401)
    expect((await server.comeIn('Slips', PIN)).problem.waitS).toBe(4)
    expect((await signInsOf(id))?.wrongTries).toBe(5)
    wait(4)
    expect((await server.comeIn('Slips', PIN)).status).toBe(200)
    expect((await signInsOf(id))?.wrongTries).toBe(0)
  })

  it('shuts a PIN to strangers after ten wrong ones, not on a device of the house, until a manager lifts it', async () => {
    const id = await newcomer('Tried On')
    const tablet = { cookie: await aTablet() }
    for (let i = 0; i < 10; i++) {
      wait(61)
      expect((await server.comeIn('Tried On', '0001')).status).toBe(401)
    }
    wait(86_400)
    expect(await server.comeIn('Tried On', PIN)).toMatchObject({ status: 403, problem: { code: 'lockedOut' } })
    expect((await signInsOf(id))?.isLockedOut).toBe(true)
    expect((await server.comeIn('Tried On', PIN, tablet)).status).toBe(200)
    // Coming in at the bar does not open it for the strangers.
    expect((await server.comeIn('Tried On', PIN)).status).toBe(403)
    expect((await server.send('DELETE', `/api/people/${id}/lock-out`, undefined, { as: 'lead' })).status).toBe(403)
    expect((await server.send('DELETE', `/api/people/${id}/lock-out`)).status).toBe(200)
    expect((await server.comeIn('Tried On', PIN)).status).toBe(200)
  })

  it('on a device of the house a wrong hand closes nobody’s way in but its own, and for two minutes at most', async () => {
    await newcomer('Wrong Hand')
    await newcomer('Right Hand')
    const tablet = { cookie: await aTablet() }
    for (let i = 0; i < 40; i++) {
      wait(121)
      expect((await server.comeIn('Wrong Hand', '0001', tablet)).status).toBe(401)
    }
    const told = await server.comeIn('Wrong Hand', PIN, tablet)
    expect(told.problem.waitS).toBeLessThanOrEqual(120)
    expect((await server.comeIn('Right Hand', PIN, tablet)).status).toBe(200)
    expect((await server.comeIn('Wrong Hand', PIN, { cookie: await aTablet() })).status).toBe(200)
  })

  it('never shuts a manager out for good: a passphrase cannot be guessed', async () => {
    for (let i = 0; i < 12; i++) {
      wait(301)
      expect((await server.comeIn('Manager', 'the tide is late')).status).toBe(401)
    }
    wait(301)
    expect((await server.comeIn('Manager', PASSPHRASE)).status).toBe(200)
  })

  it('of fifty guesses at the same moment listens to no more than of fifty one after the other', async () => {
    await newcomer('Raced')
    wait(7200)
    const answers = await race(50, (i) => server.comeIn('Raced', String(1000 + i)))
    const heard = answers.filter((a) => a.status === 401)
    expect(heard.length).toBeGreaterThan(0)
    expect(heard.length).toBeLessThanOrEqual(4)
    expect(answers.every((a) => [401, 403, 429].includes(a.status))).toBe(true)
    wait(7200)
  })

  it('knows names on its devices alone; elsewhere nobody is named', async () => {
    const tablet = { cookie: await aTablet() }
    const inside = await doorOf(tablet)
    expect(inside.device).toMatchObject({ name: 'Hatch', well: 'yard' })
    expect(inside.people?.map((p) => p.name)).toContain('Manager')
    expect(inside.people?.every((p) => p.shown === null)).toBe(true)
    const outside = (await server.get<SignInState>('/api/sign-in', { as: '' })).body
    expect(outside).toMatchObject({ device: null, people: null, you: null, hasManager: true })
    expect(JSON.stringify(outside)).not.toMatch(/"Manager"|Front|Yard/)
  })

  it('a code enrols one device, once, within ten minutes; a device that is taken out is a stranger', async () => {
    const code = await aCode()
    const enrol = (body: object) => server.send<Device>('POST', '/api/devices', body, { as: '' })
    const nowhere = await server.send('POST', '/api/device-codes', { name: 'Hatch', well: 'nowhere' })
    expect(nowhere.problem.fields?.[0]?.field).toBe('well')
    expect((await enrol({ code: 'AAAA2222' })).problem.fields?.[0]?.field).toBe('code')
    const both = await race(2, () => enrol({ code }))
    expect(both.map((a) => a.status).sort()).toEqual([201, 422])
    const late = await aCode(null)
    wait(601)
    expect((await enrol({ code: late })).status).toBe(422)

    const cookie = await aTablet()
    await newcomer('At The Hatch')
    const inside = await server.comeIn('At The Hatch', PIN, { cookie })
    const device = (await server.get<Device[]>('/api/devices')).body.at(-1)
    expect(await reads(inside.headers)).toBe(200)
    expect((await server.send('DELETE', `/api/devices/${device?.id}`)).status).toBe(200)
    expect(await reads(inside.headers)).toBe(401)
    expect((await doorOf({ cookie })).device).toBeNull()
  })

  it('another hand on the same device ends the sign-in before, and each does what it does in its own name', async () => {
    await newcomer('Early')
    await newcomer('Late')
    const early = await server.comeIn('Early', PIN)
    const late = await server.comeIn('Late', PIN, early.headers)
    expect(await reads(early.headers)).toBe(401)
    expect(await reads(late.headers)).toBe(200)
    // A page that still shows the one before does nothing in the name of the one after.
    const believes = { ...late.headers, 'conch-person': String(early.body.id) }
    expect((await server.get('/api/house', believes)).problem.detail).toContain('Late has signed in on this device')
  })

  it('a locked screen reads what the bar reads and changes nothing, until somebody says who it is', async () => {
    const manager = await server.comeIn('Manager', PASSPHRASE)
    expect((await server.get('/api/audit', manager.headers)).status).toBe(200)
    expect((await server.send('POST', '/api/lock', undefined, manager.headers)).status).toBe(200)
    expect(await reads(manager.headers)).toBe(200)
    expect((await server.get('/api/audit', manager.headers)).status).toBe(403)
    expect((await server.get('/api/menu', manager.headers)).status).toBe(200)
    const drink = await server.send('POST', '/api/drinks', { name: 'Locked' }, manager.headers)
    expect(drink.problem.code).toBe('locked')
    expect((await doorOf(manager.headers)).you).toMatchObject({ name: 'Manager', isLocked: true })
    const again = await server.comeIn('Manager', PASSPHRASE, manager.headers)
    expect((await server.send('POST', '/api/drinks', { name: 'Unlocked' }, again.headers)).status).toBe(201)
  })

  it('one leaves here, or everywhere; a manager makes somebody leave, and nobody else does', async () => {
    const id = await newcomer('Leaves')
    const [one, two, three] = [1, 2, 3].map(() => server.comeIn('Leaves', PIN))
    const [a, b, c] = [await one, await two, await three].map((s) => s?.headers ?? { cookie: '' })
    if (!a || !b || !c) throw new Error('three came in')
    await server.send('POST', '/api/sign-out', undefined, a)
    expect([await reads(a), await reads(b)]).toEqual([401, 200])
    expect((await server.send('POST', '/api/sign-out-everywhere', { personId: 1 }, b)).status).toBe(403)
    expect((await signInsOf(id))?.sessions).toHaveLength(2)
    await server.send('POST', '/api/sign-out-everywhere', { personId: id })
    expect([await reads(b), await reads(c)]).toEqual([401, 401])
    const again = await server.comeIn('Leaves', PIN)
    await server.send('POST', '/api/sign-out-everywhere', {}, again.headers)
    expect(await reads(again.headers)).toBe(401)
  })

  it('a token is another one after an hour; the one before holds until the new one came back, and shortly after', async () => {
    await newcomer('Stays')
    const { headers } = await server.comeIn('Stays', PIN)
    const ask = async (cookie: string) => {
      const response = await server.app.request('/api/house', { headers: { cookie } })
      return { status: response.status, set: response.headers.getSetCookie()[0]?.split(';')[0] }
    }
    expect(await ask(headers.cookie)).toEqual({ status: 200, set: undefined })
    wait(3601)
    const lost = await ask(headers.cookie)
    expect(lost).toMatchObject({ status: 200, set: expect.stringMatching(/^conch=/) })
    // The answer was lost: nobody is signed out by that, and soon another token comes.
    expect(await ask(headers.cookie)).toEqual({ status: 200, set: undefined })
    wait(61)
    const { set: next = '' } = await ask(headers.cookie)
    expect(next).not.toBe('')
    expect(next).not.toBe(lost.set)
    expect((await ask(next)).status).toBe(200)
    expect((await ask(headers.cookie)).status).toBe(200)
    wait(121)
    expect((await ask(headers.cookie)).status).toBe(401)
    expect((await ask(next)).status).toBe(200)
    // A shift is over some time.
    wait(16 * 3600)
    expect((await ask(next)).status).toBe(401)
  })

  it('one changes one’s own PIN with the one before, and is signed out everywhere else', async () => {
    await newcomer('Chooses Anew')
    const here = await server.comeIn('Chooses Anew', PIN)
    expect(here.body.mustChange).toBe(true)
    const there = await server.comeIn('Chooses Anew', PIN)
    const change = (old: string, secret: string) => server.send('PUT', '/api/own-secret', { old, secret }, here.headers)
    expect((await change('0001', '8305')).problem.fields?.[0]?.field).toBe('old')
    for (const easy of ['1234', '4321', '0000', '830', '83055', 'abcd', PIN])
      expect((await change(PIN, easy)).problem.fields?.[0]?.field).toBe('secret')
    expect((await change(PIN, '8305')).status).toBe(200)
    expect([await reads(here.headers), await reads(there.headers)]).toEqual([200, 401])
    expect((await server.comeIn('Chooses Anew', PIN)).status).toBe(401)
    expect((await server.comeIn('Chooses Anew', '8305')).body.mustChange).toBe(false)
  })

  it('a first PIN from a manager ends what was open, and is not the last one', async () => {
    const id = await newcomer('Forgot')
    const before = await server.comeIn('Forgot', PIN)
    const give = (secret: string, who = {}) => server.send('PUT', `/api/people/${id}/secret`, { secret }, who)
    expect((await give('8305', { as: 'lead' })).status).toBe(403)
    expect((await give('1111')).problem.fields?.[0]?.field).toBe('secret')
    expect((await give('8305')).status).toBe(200)
    expect(await reads(before.headers)).toBe(401)
    expect((await server.comeIn('Forgot', '8305')).body.mustChange).toBe(true)
    // Nobody gives themselves one past the word they have.
    const me = (await server.comeIn('Manager', PASSPHRASE)).headers
    const own = await server.send('PUT', '/api/people/1/secret', { secret: 'another long sentence' }, me)
    expect(own.problem.detail).toContain('with the one you have')
  })

  it('a word that is taken away while somebody says it lets nobody in, and overwrites nothing', async () => {
    const id = await newcomer('Just Then')
    let pin = PIN
    for (const next of ['8305', '4961', '7283', '5027', '9146', '6382']) {
      wait(7200)
      const [came] = await race(2, async (i) =>
        i === 0
          ? server.comeIn('Just Then', pin)
          : server.send('PUT', `/api/people/${id}/secret`, { secret: next }).then(() => undefined),
      )
      // It came before and was ended, or it was refused.
      if (came?.status === 200) expect(await reads(came.headers)).toBe(401)
      else expect(came?.status).toBe(401)
      expect((await server.comeIn('Just Then', next)).status).toBe(200)
      pin = next
    }
    const { headers } = await server.comeIn('Just Then', pin)
    wait(7200)
    await race(2, (i) =>
      i === 0
        ? server.send('PUT', '/api/own-secret', { old: pin, secret: '2947' }, headers)
        : server.send('PUT', `/api/people/${id}/secret`, { secret: '1593' }),
    )
    // Whatever came first: a manager's word is the one that counts.
    wait(7200)
    expect((await server.comeIn('Just Then', '1593')).status).toBe(200)
  })

  it('another role is another way in: a new manager needs a passphrase, and what was open ends', async () => {
    const id = await newcomer('Rises', 'lead')
    const before = await server.comeIn('Rises', PIN)
    const put = (role: string, revision: number) =>
      server.send('PUT', `/api/people/${id}`, { name: 'Rises', role, isActive: true, revision })
    expect((await put('manager', 1)).status).toBe(200)
    expect(await reads(before.headers)).toBe(401)
    expect((await server.comeIn('Rises', PIN)).problem.detail).toContain('managers sign in by passphrase')
    await server.send('PUT', `/api/people/${id}/secret`, { secret: 'the eel is awake' })
    expect((await server.comeIn('Rises', 'the eel is awake')).status).toBe(200)
  })

  it('who no longer works here is out at once, and two names that sound alike are one', async () => {
    const id = await newcomer('Goes')
    const { headers } = await server.comeIn('Goes', PIN)
    await server.send('PUT', `/api/people/${id}`, { name: 'Goes', role: 'bartender', isActive: false, revision: 1 })
    expect(await reads(headers)).toBe(401)
    expect((await server.comeIn('Goes', PIN)).status).toBe(401)
    const alike = await server.send('POST', '/api/people', { name: 'gOES ', role: 'bartender' })
    expect(alike.problem.code).toBe('exists')
  })

  it('who came and went stands in the audit; the words they said stand nowhere', async () => {
    await newcomer('Written Down', 'bartender', '6184')
    await server.comeIn('Written Down', '6184')
    const { entries } = (await server.get<AuditPage>('/api/audit?kind=session')).body
    expect(entries[0]).toMatchObject({ by: 'Written Down', verb: 'signedIn' })
    const text = await server.copy()
    for (const secret of ['6184', PASSPHRASE, '$argon2']) expect(text).not.toContain(`"${secret}`)
    const all = await server.database.db.execute(sql`select detail::text, answer::text from events, kept_answers`)
    expect(JSON.stringify(all)).not.toMatch(/6184|\$argon2|the tide keeps time/)
  })

  it('no copy of the house has a table of it', () => {
    const names = COPIED.map((t) => t.name)
    for (const secret of ['secrets', 'sessions', 'devices', 'device_codes', 'sign_in_tries'])
      expect(names).not.toContain(secret)
  })
})

describe('a house that came from a copy', () => {
  it('is opened by whoever brought it in, once, and by nobody else', async () => {
    const from = new TestServer(await openFresh('pglite'))
    await from.setUp('Old Parlour')
    await from.send('POST', '/api/people', { name: 'Ada', role: 'bartender', secret: PIN })
    const copy = await from.copy()
    const server = new TestServer(await openFresh('pglite'))
    const state = await server.bring(copy)
    expect(state).toMatchObject({ state: 'done', came: { managers: ['Manager'] } })
    expect((await server.get<SignInState>('/api/sign-in', { as: '' })).body.hasManager).toBe(false)
    expect((await server.comeIn('Ada', PIN)).status).toBe(401)
    const claim = (importId: string, name = 'Manager', secret = PASSPHRASE) =>
      server.send<You>('POST', '/api/claim', { importId, name, secret }, { as: '' })
    expect((await claim('00000000-0000-4000-8000-000000000000')).status).toBe(404)
    expect((await claim(state.id, 'Ada')).problem.fields?.[0]?.field).toBe('name')
    expect((await claim(state.id, 'Manager', 'short')).problem.fields?.[0]?.field).toBe('secret')
    const both = await race(2, () => claim(state.id))
    expect(both.map((a) => a.status).sort()).toEqual([200, 409])
    expect((await server.comeIn('Manager', PASSPHRASE)).status).toBe(200)
    await from.database.close()
    await server.database.close()
  })
})
