import 'fake-indexeddb/auto'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { z } from 'zod'
import { forgetAnswers } from '../keeping/answers.ts'
import { openStore } from '../keeping/store.ts'
import { ApiError, api, sequenceOf, takeKeptShown } from './api.ts'
import { setLine } from './line.ts'
import { forgetWho, lockWho, setTold, setWho } from './who.ts'

const form = z.object({ say: z.string() })
let say: string | undefined
let isSlow = false

beforeEach(async () => {
  await (await openStore()).clear('answers')
  takeKeptShown()
  say = 'first'
  isSlow = false
  vi.stubGlobal('fetch', async () => {
    if (isSlow) await new Promise(() => {})
    if (say === undefined) throw new TypeError('no network')
    return Response.json({ say }, { headers: { 'conch-at': '41' } })
  })
})
afterEach(() => {
  vi.unstubAllGlobals()
  vi.useRealTimers()
  setLine(true)
  forgetWho()
})

const bar = () => setWho({ id: 3, name: 'Ada', role: 'bartender' })
const keys = async () => (await (await openStore()).getAllKeys('answers')).map((k) => k.join(' '))
/** Until what was answered is written down. */
const written = (count: number) => vi.waitFor(async () => expect(await keys()).toHaveLength(count))

describe('an answer of the house', () => {
  it('is kept for the bar, and is the answer where the house is not heard', async () => {
    bar()
    expect(await api.get('/api/tonight', form)).toEqual({ say: 'first' })
    await written(1)
    say = undefined
    expect(takeKeptShown()).toBe(false)
    expect(await api.get('/api/tonight', form)).toEqual({ say: 'first' })
    expect(takeKeptShown()).toBe(true)
    expect(sequenceOf('/api/tonight')).toBe(41)
    say = 'second'
    expect(await api.get('/api/tonight', form)).toEqual({ say: 'second' })
    expect(takeKeptShown()).toBe(false)
    await vi.waitFor(async () =>
      expect((await (await openStore()).get('answers', ['bar', '/api/tonight']))?.answer).toEqual({ say: 'second' }),
    )
  })

  it('is not waited for for ever where the line is cut in the middle', async () => {
    bar()
    await api.get('/api/tonight', form)
    await written(1)
    setLine(false)
    isSlow = true
    expect(await api.get('/api/tonight', form)).toEqual({ say: 'first' })
  })

  it('is no answer any more once this page wrote something newer of it, whatever it wrote of others', async () => {
    setWho({ id: 2, name: 'Lea', role: 'lead' })
    const draft = '/api/ingredients/orgeat/draft'
    for (const path of [draft, '/api/drinks/x', '/api/drinks/xy']) await api.get(path, form)
    await written(3)
    await new Promise((r) => setTimeout(r, 5))
    await api.put(draft, form, { document: 'newer' })
    await api.put('/api/drinks/x/draft', form, { document: 'newer' })
    say = undefined
    // The page keeps what it has in memory.
    for (const path of [draft, '/api/drinks/x'])
      await expect(api.get(path, form)).rejects.toMatchObject({ isAway: true })
    expect(await api.get('/api/drinks/xy', form)).toEqual({ say: 'first' })
    // Heard anew it is the newest again.
    say = 'newer'
    await api.get(draft, form)
    await vi.waitFor(async () =>
      expect((await (await openStore()).get('answers', ['writers', draft]))?.answer).toEqual({ say: 'newer' }),
    )
    say = undefined
    expect(await api.get(draft, form)).toEqual({ say: 'newer' })
  })

  it('of another form than this page knows is not used', async () => {
    bar()
    await api.get('/api/tonight', form)
    await written(1)
    say = undefined
    await expect(api.get('/api/tonight', z.object({ say: z.number() }))).rejects.toMatchObject({ isAway: true })
  })

  it('that refuses is no answer to keep, nor one to replace', async () => {
    bar()
    await api.get('/api/tonight', form)
    await written(1)
    vi.stubGlobal('fetch', async () => Response.json({ code: 'notFound', detail: 'gone' }, { status: 404 }))
    await expect(api.get('/api/tonight', form)).rejects.toThrow('gone')
  })

  it.each([
    ['a manager', { id: 1, name: 'Mo', role: 'manager' } as const, []],
    [
      'a guest',
      { id: 5, name: 'Tablet', role: 'viewer' } as const,
      ['anybody /api/ready', 'guests /api/published-menu'],
    ],
    [
      'a lead',
      { id: 2, name: 'Lea', role: 'lead' } as const,
      ['anybody /api/ready', 'bar /api/house', 'bar /api/tonight'],
    ],
  ])('is kept for %s as far as it is theirs', async (_whose, who, kept) => {
    setWho(who)
    for (const path of [
      '/api/ready',
      '/api/house',
      '/api/tonight',
      '/api/published-menu',
      '/api/sign-in',
      '/api/people',
    ])
      await api.get(path, form)
    await written(Math.max(1, kept.length))
    expect(await keys()).toEqual(kept.length > 0 ? kept : ['anybody /api/ready'])
  })

  it('of what one is writing is kept for those who write alone', async () => {
    for (const role of ['bartender', 'manager', 'viewer'] as const) {
      setWho({ id: 3, name: 'Ada', role })
      await api.get('/api/ingredients/orgeat/draft', form)
    }
    setWho({ id: 2, name: 'Lea', role: 'lead' })
    await api.get('/api/ingredients/orgeat/draft', form)
    await written(1)
    expect(await keys()).toEqual(['writers /api/ingredients/orgeat/draft'])
    say = undefined
    expect(await api.get('/api/ingredients/orgeat/draft', form)).toEqual({ say: 'first' })
    bar()
    await expect(api.get('/api/ingredients/orgeat/draft', form)).rejects.toMatchObject({ isAway: true })
  })

  it('of nobody and of a sign-in is never kept, whoever asks', async () => {
    for (const role of ['bartender', 'lead', 'manager', 'viewer'] as const) {
      setWho({ id: 3, name: 'Ada', role })
      for (const path of [
        '/api/sign-in',
        '/api/people',
        '/api/sign-ins',
        '/api/own-doings',
        '/api/split-preps',
        '/api/audit',
        '/api/tastings',
        '/api/tastings/3',
        '/api/tastings/3/key',
        '/api/devices',
        '/api/ingredients/orgeat/others-know',
        '/api/export',
      ])
        await api.get(path, form)
    }
    await api.get('/api/ready', form)
    await written(1)
  })

  it('is not shown to a guest because somebody of the bar was here before', async () => {
    bar()
    await api.get('/api/house', form)
    await written(1)
    setWho({ id: 5, name: 'Tablet', role: 'viewer' })
    say = undefined
    await expect(api.get('/api/house', form)).rejects.toBeInstanceOf(ApiError)
    await forgetAnswers('bar')
    expect(await keys()).toEqual([])
  })

  it('is the bar’s on a screen that a manager left, and asked for anew only once the house knows', async () => {
    bar()
    await api.get('/api/house', form)
    await written(1)
    setWho({ id: 1, name: 'Mo', role: 'manager' })
    say = 'with everything that is sealed'
    expect(await api.get('/api/house', form)).toEqual({ say })
    lockWho()
    expect(await api.get('/api/house', form)).toEqual({ say: 'first' })
    setTold()
    say = 'as the bar reads it'
    expect(await api.get('/api/house', form)).toEqual({ say })
    expect(JSON.stringify(await (await openStore()).getAll('answers'))).not.toContain('sealed')
  })
})
