import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { z } from 'zod'
import { api } from './api.ts'
import { queryClient } from './queries.ts'
import { goOn, lookWhoIsHere, signIn, tellLocked } from './signingIn.ts'
import { forgetWho, lockWho, readWho, setWho } from './who.ts'

const MANAGER = { id: 1, name: 'Mo', role: 'manager' } as const
const ADA = { id: 3, name: 'Ada', role: 'bartender', mustChange: false } as const
const SEALED = ['kept', 'shelf', 'of=blend']

type Answer = { status?: number; body: unknown } | undefined
let house: (method: string, path: string) => Promise<Answer> | Answer
let asked: string[] = []

beforeEach(() => {
  asked = []
  setWho(MANAGER)
  queryClient.setQueryData(SEALED, { grams: 12.5 })
  house = () => undefined
  vi.stubGlobal('fetch', async (path: string, { method = 'GET' }: RequestInit) => {
    asked.push(`${method} ${path}`)
    const answer = await house(method, path)
    if (!answer) throw new TypeError('no network')
    return Response.json(answer.body, { status: answer.status ?? 200 })
  })
})
afterEach(() => {
  vi.unstubAllGlobals()
  queryClient.clear()
  forgetWho()
})

const nobody = { status: 401, body: { code: 'nobody', detail: 'somebody else has signed in', status: 401 } }
const state = (you: unknown) => ({
  body: { house: 'x', isDemo: false, hasManager: true, device: null, you, people: null, isSecure: true },
})

describe('what only a manager sees', () => {
  it('goes from memory when somebody of the bar goes on without the network', () => {
    goOn({ id: 3, name: 'Ada' })
    expect(queryClient.getQueryData(SEALED)).toBeUndefined()
    expect(readWho()).toEqual({
      id: 3,
      name: 'Ada',
      role: 'bartender',
      isUnconfirmed: true,
      session: 1,
      isUntold: true,
    })
  })

  it('goes from every page of the browser when one of them is locked or handed over', () => {
    const elsewhere = { ...MANAGER, role: 'bartender', isLocked: true }
    localStorage.setItem('conch:who', JSON.stringify(elsewhere))
    window.dispatchEvent(new StorageEvent('storage', { key: 'conch:who' }))
    expect(readWho()).toEqual(elsewhere)
    expect(queryClient.getQueryData(SEALED)).toBeUndefined()
  })
})

describe('who comes in', () => {
  it('is not taken for gone because the one before is, while they say who they are', async () => {
    let letIn = (_: Answer) => {}
    house = (method, path) => {
      if (method === 'POST') return new Promise((resolve) => (letIn = resolve))
      // What the house answers in the middle of it: the one before is gone, nobody is here yet.
      return path === '/api/sign-in' ? state(null) : nobody
    }
    const coming = signIn('Ada', '2580')
    await vi.waitFor(() => expect(asked).toContain('POST /api/sign-in'))
    await expect(api.get('/api/people', z.unknown())).rejects.toThrow('somebody else')
    const looked = lookWhoIsHere()
    expect(readWho()?.id).toBe(1)
    house = (_method, path) => (path === '/api/sign-in' ? state({ ...ADA, isLocked: false }) : nobody)
    letIn({ body: ADA })
    await coming
    await looked
    expect(readWho()).toEqual({ id: 3, name: 'Ada', role: 'bartender' })
  })

  it('is signed out where the house knows nobody here, and only then', async () => {
    await lookWhoIsHere()
    expect(readWho()?.id).toBe(1)
    house = () => state(null)
    await lookWhoIsHere()
    expect(readWho()).toBeUndefined()
  })

  it('by their word alone stays that, though the house has the sign-in of the one before', async () => {
    goOn({ id: 3, name: 'Ada' })
    house = () => state({ ...MANAGER, mustChange: false, isLocked: false })
    await lookWhoIsHere()
    expect(readWho()).toMatchObject({ id: 3, isUnconfirmed: true })
  })
})

describe('a screen that is locked while the house is away', () => {
  it('is told to the house when it is back, before anything is asked of it', async () => {
    lockWho()
    expect(await tellLocked()).toBe(false)
    house = () => ({ body: { done: true } })
    await expect(api.get('/api/people', z.unknown())).rejects.toMatchObject({ isAway: true })
    expect(asked).not.toContain('GET /api/people')
    expect(await tellLocked()).toBe(true)
    expect(readWho()).toEqual({ ...MANAGER, role: 'bartender', isLocked: true })
    await api.get('/api/people', z.unknown())
    expect(asked.filter((a) => a === 'POST /api/lock').length).toBeGreaterThan(0)
  })
})
