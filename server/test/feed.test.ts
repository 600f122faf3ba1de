/** What happens, told as it happens: to whoever may hear of it, in order, nothing twice and nothing missed. */

import type { FeedFrame, Present } from '@conch/contract'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { openPostgres } from '../database/index.ts'
import { aDocument, BACKENDS, openFresh, TestServer, type Who } from './testServer.ts'

interface Heard {
  event: string
  id: string
  data: string
}

/** Listens as a browser does. */
class Listener {
  readonly heard: Heard[] = []
  isEnded = false
  private readonly stop = new AbortController()
  private readonly waiting = new Set<() => void>()

  static async on(server: TestServer, who: Who, lastEventId?: number): Promise<Listener> {
    const mine = new Listener()
    const headers = {
      ...(await server.header(who)),
      accept: 'text/event-stream',
      ...(lastEventId === undefined ? {} : { 'last-event-id': String(lastEventId) }),
    }
    const response = await server.app.request(
      new Request('http://localhost/api/feed', { headers, signal: mine.stop.signal }),
    )
    expect(response.status).toBe(200)
    expect(response.headers.get('content-type')).toBe('text/event-stream')
    void mine.read(response.body as ReadableStream<Uint8Array>)
    await mine.until((h) => h.event === 'hello')
    return mine
  }

  private async read(body: ReadableStream<Uint8Array>): Promise<void> {
    let text = ''
    const reader = body.pipeThrough(new TextDecoderStream() as never).getReader() as ReadableStreamDefaultReader<string>
    this.stop.signal.addEventListener('abort', () => void reader.cancel().catch(() => {}))
    for (;;) {
      const { done, value } = await reader.read().catch(() => ({ done: true, value: '' }))
      if (done) break
      text += value
      const parts = text.split('\n\n')
      text = parts.pop() ?? ''
      for (const part of parts) {
        const field = (name: string) => part.match(new RegExp(`^${name}: (.*)$`, 'm'))?.[1] ?? ''
        this.heard.push({ event: field('event'), id: field('id'), data: field('data') })
      }
      for (const look of this.waiting) look()
    }
    this.isEnded = true
    for (const look of this.waiting) look()
  }

  async until(isIt: (heard: Heard) => boolean, withinMs = 5_000): Promise<Heard> {
    const end = Date.now() + withinMs
    for (;;) {
      const found = this.heard.find(isIt)
      if (found) return found
      if (Date.now() > end) throw new Error(`not heard: ${JSON.stringify(this.heard)}`)
      await new Promise<void>((resolve) => {
        const done = () => {
          this.waiting.delete(done)
          resolve()
        }
        this.waiting.add(done)
        setTimeout(done, 50)
      })
    }
  }

  get frames(): FeedFrame[] {
    return this.heard.filter((h) => h.event === 'changed').map((h) => JSON.parse(h.data))
  }

  changed = (what: string) => this.until((h) => h.event === 'changed' && JSON.parse(h.data).changed.includes(what))

  leave(): void {
    this.stop.abort()
  }
}

describe.each(BACKENDS)('the feed, %s', (backend) => {
  const servers: TestServer[] = []
  let one: TestServer
  /** Another process of the same house, where there can be one. */
  let other: TestServer
  const listeners: Listener[] = []
  const listen = async (server: TestServer, who: Who = {}, last?: number) => {
    const mine = await Listener.on(server, who, last)
    listeners.push(mine)
    return mine
  }

  beforeAll(async () => {
    const database = await openFresh(backend)
    one = new TestServer(database)
    servers.push(one)
    const { place } = database
    if (place && 'url' in place) servers.push(new TestServer(await openPostgres(place.url)))
    other = servers.at(-1) ?? one
    await one.setUp()
    // Whoever is met by a test comes in past the writes, after which the house is read anew.
    for (const as of ['manager', 'lead', 'bartender', 'viewer']) for (const s of servers) await s.idOf({ as })
  })
  afterAll(async () => {
    for (const l of listeners) l.leave()
    for (const s of servers) await s.services.feed.close()
    for (const s of servers) await s.database.close()
  })

  it('tells in every process what was written in one, in order, and once', async () => {
    const here = await listen(one, { as: 'lead' })
    const there = await listen(other, { as: 'bartender' })
    const slugs: string[] = []
    for (let i = 0; i < 12; i++) slugs.push((await one.createDrink(`Told ${i}`)).slug)
    for (const l of [here, there]) {
      await l.changed(`drink/${slugs.at(-1)}`)
      const said = l.frames.flatMap((f) => (f.changed as string[]).filter((c) => c.startsWith('drink/')))
      expect(said).toEqual(slugs.map((s) => `drink/${s}`))
      const places = l.frames.map((f) => f.sequence)
      expect(places).toEqual([...places].sort((a, b) => a - b))
    }
  })

  it('goes on where one was: what happened meanwhile is told, and nothing before it', async () => {
    const before = await listen(one, { as: 'lead' })
    const was = await one.createDrink('Before the pause')
    const { id } = await before.changed(`drink/${was.slug}`)
    before.leave()
    const missed = await one.createDrink('While away')
    const again = await listen(other, { as: 'lead' }, Number(id))
    await again.changed(`drink/${missed.slug}`)
    expect(again.frames.flatMap((f) => f.changed)).not.toContain(`drink/${was.slug}`)
    // Drafts are in no chain: they are looked at again.
    expect(again.frames[0]?.changed).toContain('draft')
  })

  it('goes on where one was even in a house that was opened again since', async () => {
    const database = await openFresh(backend)
    const before = new TestServer(database)
    await before.setUp()
    await before.idOf({ as: 'lead' })
    const begin = (await before.get<FeedFrame>('/api/feed')).body.sequence
    const missed = await before.createDrink('Before it was opened again')
    await before.services.feed.close()
    const again = new TestServer(database)
    const back = await listen(again, { as: 'lead' }, begin)
    await back.changed(`drink/${missed.slug}`)
    const next = await again.createDrink('After it')
    await back.changed(`drink/${next.slug}`)
    const drinks = back.frames.flatMap((f) => (f.changed as string[]).filter((c) => c.startsWith('drink/')))
    expect(drinks).toEqual([`drink/${missed.slug}`, `drink/${next.slug}`])
    back.leave()
    await again.services.feed.close()
    await database.close()
  })

  it('says that everything may be another one to whoever comes with a place that is not known', async () => {
    for (const last of [2_000_000_000, 0]) {
      const far = await listen(one, { as: 'lead' }, last)
      const frame = await far.until((h) => h.event === 'changed')
      if (last > 0) expect(JSON.parse(frame.data).changed).toBe('everything')
    }
  })

  it('tells nobody of what they may not read', async () => {
    const guest = await listen(one, { as: 'viewer' })
    const bar = await listen(one, { as: 'bartender' })
    const lead = await listen(one, { as: 'lead' })
    const drink = await one.createDrink('Not for guests')
    const draft = await one.saveDraft(drink.slug, aDocument({ name: 'Not for guests' }), drink.draft?.revision ?? 0)
    expect(draft.status).toBe(200)
    await lead.changed(`draft/drink/${drink.slug}`)
    await bar.changed(`drink/${drink.slug}`)
    const { settings, revisions } = (await one.house()).body
    await one.send('PUT', '/api/house/settings', {
      document: { ...settings, name: 'Told' },
      revision: revisions.settings,
    })
    await guest.changed('settings')
    expect(guest.frames.flatMap((f) => f.changed)).toEqual(['settings'])
    // That somebody writes is no secret to the bar; of what is.
    await bar.changed('draft')
    expect(JSON.stringify(bar.frames)).not.toContain('draft/')
    expect(guest.heard.filter((h) => h.event === 'present').every((h) => h.data === '[]')).toBe(true)
  })

  it('ends for whoever signs out, and whose role is another one', async () => {
    const who = { as: 'lead', called: 'Short Stay' }
    const leaving = await listen(one, who)
    await one.send('POST', '/api/sign-out', {}, who)
    await leaving.until((h) => h.event === 'left')
    const id = await other.idOf({ as: 'bartender', called: 'Grows Up' })
    const growing = await listen(other, { as: 'bartender', called: 'Grows Up' })
    const { body: people } = await one.get<{ id: number; revision: number }[]>('/api/people')
    const revision = people.find((p) => p.id === id)?.revision
    const changed = await one.send('PUT', `/api/people/${id}`, {
      name: 'Grows Up',
      role: 'lead',
      isActive: true,
      revision,
    })
    expect(changed.status).toBe(200)
    await growing.until((h) => h.event === 'left')
  })

  it('says who is on a draft, to whoever writes drafts, until the page says otherwise', async () => {
    const lead = await listen(other, { as: 'lead' })
    const bar = await listen(other, { as: 'bartender' })
    const drink = await one.createDrink('Two at once')
    const on = `drink/${drink.slug}`
    await one.send('POST', '/api/here', { page: 'page12345', on }, { as: 'manager' })
    const isThere = (h: Heard) => h.event === 'present' && (JSON.parse(h.data) as Present).some((p) => p.on === on)
    const said = await lead.until(isThere)
    expect(JSON.parse(said.data)).toContainEqual({ page: 'page12345', who: 'Manager', on })
    // Nobody speaks for another's page.
    await one.send('POST', '/api/here', { page: 'page12345', on: null }, { as: 'lead' })
    expect((await one.send('POST', '/api/here', { page: 'page12345', on: 'person/1' })).status).toBe(422)
    await one.send('POST', '/api/here', { page: 'page12345', on: null }, { as: 'manager' })
    await lead.until((h) => h.event === 'present' && !isThere(h) && lead.heard.indexOf(h) > lead.heard.indexOf(said))
    expect(bar.heard.filter(isThere)).toEqual([])
    expect((await one.send('POST', '/api/here', { page: 'page12345', on }, { as: 'bartender' })).status).toBe(403)
  })

  it('tells a page with every answer how far the house was, so that it hears of all that came behind it', async () => {
    const who = { as: 'lead' }
    const before = await one.file('/api/drinks', who)
    const at = Number(before.headers.get('conch-at'))
    const drink = await one.createDrink('Between an answer and the stream')
    const late = await listen(other, who, at)
    await late.changed(`drink/${drink.slug}`)
    expect((await one.file('/api/ready', { as: '' })).headers.get('conch-at')).toBeNull()
  })

  it('answers once whoever does not listen', async () => {
    const { body: begin } = await one.get<FeedFrame>('/api/feed')
    expect(begin.changed).toEqual([])
    const drink = await one.createDrink('Asked for')
    const { body: then } = await other.get<FeedFrame>(`/api/feed?after=${begin.sequence}`)
    expect(then.changed).toEqual(expect.arrayContaining(['drink', `drink/${drink.slug}`, 'draft']))
    expect((await one.get('/api/feed?after=-1')).status).toBe(422)
    expect((await one.get('/api/feed', { as: '' })).status).toBe(401)
  })

  it('keeps eight streams of a sign-in at most: the oldest gives way', async () => {
    const who = { as: 'bartender', called: 'Many Tabs' }
    const tabs: Listener[] = []
    for (let i = 0; i < 9; i++) tabs.push(await listen(one, who))
    await tabs[0]?.until(() => tabs[0]?.isEnded === true)
    expect(tabs.map((t) => t.isEnded)).toEqual([true, ...Array.from({ length: 8 }, () => false)])
  })
})
