import 'fake-indexeddb/auto'
import { MOST_LATE_S, SAID_AGO, SEES } from '@conch/contract'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { z } from 'zod'
import { ApiError, api } from '../app/api.ts'
import { forgetWho, goOnAs, lockWho, setTold, setWho } from '../app/who.ts'
import { type KeptTap, openStore } from '../keeping/store.ts'
import { takeBack, tap } from './tap.ts'
import { flushTaps, readTaps, waitingTaps } from './taps.ts'

const ADA = { id: 3, name: 'Ada', role: 'bartender' } as const
const BEN = { id: 4, name: 'Ben', role: 'bartender' } as const
const answer = z.object({ id: z.number() })

interface Sent {
  path: string
  body: unknown
  key: string | null
  person: string | null
  agoS: number
  sees: string | null
}
let sent: Sent[] = []
/** What the house does with the next requests; undefined: it is not heard. */
let house: ((s: Sent) => { status: number; body: unknown }) | undefined
let done = 0
const open = () => {
  house = () => ({ status: 201, body: { id: ++done } })
}
const refusal = (status: number, code: string, detail: string) => ({ status, body: { code, detail, status } })

beforeEach(async () => {
  sent = []
  open()
  setWho(ADA)
  await (await openStore()).clear('taps')
  vi.stubGlobal('fetch', async (path: string, { method, headers, body }: RequestInit & { headers: Headers }) => {
    if (!house) throw new TypeError('no network')
    if (method !== 'POST') return Response.json({ code: 'nobody', detail: 'nobody' }, { status: 401 })
    const one = {
      path,
      body: body ? JSON.parse(String(body)) : undefined,
      key: headers.get('idempotency-key'),
      person: headers.get('conch-person'),
      agoS: Number(headers.get(SAID_AGO)),
      sees: headers.get(SEES),
    }
    sent.push(one)
    const { status, body: said } = house(one)
    return Response.json(said, { status, headers: { 'conch-at': '7' } })
  })
})
afterEach(() => {
  vi.unstubAllGlobals()
  vi.useRealTimers()
  forgetWho()
})

const out = (of: string) =>
  tap({ kind: 'out', path: '/api/outs', body: { of }, name: of, words: `${of} is out` }, answer)
const said = () => sent.map((s) => (s.body as { of: string }).of)
const kept = async () => (await readTaps()).map((t) => t.name)

describe('a tap', () => {
  it('is done at once where the house is heard, and nothing of it is kept', async () => {
    expect(await out('lime')).toEqual({ done: { id: done } })
    expect(await kept()).toEqual([])
    expect(sent).toHaveLength(1)
  })

  it('is kept where it is not, and sent once, in order, under the key that it had from the beginning', async () => {
    house = undefined
    const places = [await out('lime'), await out('rum'), await out('mint')]
    expect(places.every((p) => 'kept' in p)).toBe(true)
    const keys = (await readTaps()).map((t) => t.id)
    expect(new Set(keys).size).toBe(3)
    expect(sent).toEqual([])
    open()
    // Whoever asks for it at once, it is sent once.
    await Promise.all([flushTaps(), flushTaps(), flushTaps()])
    expect(said()).toEqual(['lime', 'rum', 'mint'])
    expect(sent.map((s) => s.key)).toEqual(keys)
    expect(await kept()).toEqual([])
    expect(waitingTaps.now()).toEqual([])
  })

  it('whose answer was lost goes again under the same key, and so does whatever was said behind it', async () => {
    let lost = true
    house = (s) => {
      if (!lost) return { status: 201, body: { id: 1 } }
      lost = false
      // It arrived; the answer did not.
      throw new TypeError(`no network behind ${s.path}`)
    }
    expect(await out('lime')).toEqual({ kept: expect.any(Number) })
    expect(await out('rum')).toEqual({ done: { id: 1 } })
    expect(said()).toEqual(['lime', 'lime', 'rum'])
    expect(sent[0]?.key).toBe(sent[1]?.key)
  })

  it('tapped twice is one; taken back it was never said', async () => {
    house = undefined
    const first = await out('lime')
    expect(await out('lime')).toEqual(first)
    await out('rum')
    if (!('kept' in first)) throw new Error('it was sent')
    await takeBack(first.kept)
    await expect(takeBack(first.kept)).rejects.toThrow('sent just now')
    open()
    await flushTaps()
    expect(said()).toEqual(['rum'])
  })

  it('tapped by two fingers at once is one, and both hear what came of it', async () => {
    const both = await Promise.all([out('lime'), out('lime')])
    expect(both).toEqual([{ done: { id: done } }, { done: { id: done } }])
    expect(sent).toHaveLength(1)
    house = undefined
    expect(new Set((await Promise.all([out('rum'), out('rum')])).map((t) => JSON.stringify(t))).size).toBe(1)
    expect(await kept()).toEqual(['rum'])
  })

  it('said again after something else counts again, behind that', async () => {
    house = undefined
    for (const of of ['lime', 'rum', 'lime']) await out(of)
    open()
    await flushTaps()
    expect(said()).toEqual(['lime', 'rum', 'lime'])
  })

  it('says how long ago it was, by its own clock alone, and what was known then', async () => {
    await (await openStore()).add('taps', tapOf({ at: Date.now() - 42 * 60_000, sees: 12 }))
    await flushTaps()
    expect(sent[0]).toMatchObject({ agoS: 42 * 60, sees: '12', person: '3' })
  })

  it('that the house refuses is told to whoever tapped; found refused later it stays, with the reason', async () => {
    const no = (s: Sent) =>
      (s.body as { of: string }).of === 'lime'
        ? refusal(409, 'conflict', 'Cleo was faster')
        : { status: 201, body: { id: 1 } }
    house = no
    await expect(out('lime')).rejects.toThrow('Cleo was faster')
    expect(await kept()).toEqual([])
    house = undefined
    await out('lime')
    await out('rum')
    house = no
    await flushTaps()
    // What was said behind it is sent all the same; it is not tried again.
    await flushTaps()
    expect(said()).toEqual(['lime', 'lime', 'rum'])
    expect((await readTaps()).map((t) => [t.name, t.refused])).toEqual([['lime', 'Cleo was faster']])
  })

  it.each([
    ['busy', 503],
    ['tooMany', 429],
    ['internal', 500],
  ])('waits while the house is %s, and is not taken for refused', async (code, status) => {
    house = () => refusal(status, code, 'wait a moment')
    expect(await out('lime')).toEqual({ kept: expect.any(Number) })
    expect((await readTaps())[0]?.refused).toBeUndefined()
    open()
    await flushTaps()
    expect(await kept()).toEqual([])
  })

  it('that is too old is not sent by itself', async () => {
    await (await openStore()).add('taps', tapOf({ at: Date.now() - MOST_LATE_S * 1000 - 60_000 }))
    await flushTaps()
    expect(sent).toEqual([])
    expect((await readTaps())[0]?.refused).toContain('two days')
  })
})

const tapOf = (more: Partial<KeptTap>): KeptTap => ({
  id: `key-${Math.random()}`,
  kind: 'out',
  path: '/api/outs',
  body: { of: 'lime' },
  name: 'lime',
  words: 'lime is out',
  by: { id: ADA.id, name: ADA.name },
  isUnconfirmed: false,
  at: Date.now(),
  sees: null,
  ...more,
})

describe('somebody who goes on without the network', () => {
  it('says nothing under the name of the one before, and nothing under their own before they have said their PIN', async () => {
    house = undefined
    await out('lime')
    goOnAs(BEN)
    await out('rum')
    open()
    await flushTaps()
    // Hers are sent under her sign-in, which the house still has; his wait.
    expect(sent.map((s) => [said()[0], s.person])).toEqual([['lime', '3']])
    expect(await kept()).toEqual(['rum'])
    setTold()
    await flushTaps()
    setWho({ id: 9, name: 'Cleo', role: 'lead' })
    await flushTaps()
    expect(sent).toHaveLength(1)
    setWho(BEN)
    await flushTaps()
    expect(sent.map((s) => s.person)).toEqual(['3', '4'])
  })

  it('is not taken for confirmed because it is the name that was signed in', async () => {
    house = undefined
    lockWho()
    goOnAs(ADA)
    await out('lime')
    open()
    await flushTaps()
    expect(sent).toEqual([])
    // Nor is anything else done under it.
    await expect(api.post('/api/drinks', answer, { name: 'x' })).rejects.toThrow('say your PIN')
    setWho(ADA)
    await flushTaps()
    expect(said()).toEqual(['lime'])
  })

  it('asks the house for nothing before it was told that the screen is not open any more', async () => {
    setWho({ id: 1, name: 'Mo', role: 'manager' })
    goOnAs(BEN)
    const asked = api.get('/api/house', z.unknown())
    await expect(asked).rejects.toBeInstanceOf(ApiError)
    await expect(asked).rejects.toMatchObject({ isAway: true })
  })

  it('taps nothing on a locked screen', async () => {
    lockWho()
    await expect(out('lime')).rejects.toThrow('screen is locked')
    expect(await kept()).toEqual([])
  })
})
