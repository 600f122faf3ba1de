import type { Drink } from '@conch/contract'
import type { DrinkDocument } from '@conch/core/drink'
import { QueryClient, QueryClientProvider } from '@tanstack/react-query'
import { act, cleanup, renderHook, waitFor } from '@testing-library/react'
import type { ReactNode } from 'react'
import { afterEach, describe, expect, it, vi } from 'vitest'
import { useDraft } from './useDraft.ts'

afterEach(() => {
  cleanup()
  vi.unstubAllGlobals()
  localStorage.clear()
})

const doc = (note: string) => ({ name: 'X', note }) as DrinkDocument
const drink: Drink = { slug: 'x', name: 'X', versions: [], draft: null, poured: null, planned: null }
const wrapper = ({ children }: { children: ReactNode }) => (
  <QueryClientProvider client={new QueryClient()}>{children}</QueryClientProvider>
)

describe('a draft on a slow connection', () => {
  it('sends what was typed while a save was on its way', async () => {
    const sent: string[] = []
    vi.stubGlobal('fetch', async (_path: string, init: { body: string }) => {
      const { document, revision } = JSON.parse(init.body)
      sent.push(document.note)
      // Longer than the pause after which a draft is sent: the second is due while the first is out.
      await new Promise((r) => setTimeout(r, 1500))
      const draft = {
        drink: 'x',
        baseVersion: null,
        document,
        revision: revision + 1,
        savedBy: 'Ada',
        savedAt: '2026-01-01T00:00:00Z',
      }
      return { ok: true, status: 200, json: async () => draft }
    })
    const { result } = renderHook(() => useDraft(drink), { wrapper })
    act(() => result.current.edit(doc('first'), null))
    await waitFor(() => expect(sent).toEqual(['first']), { timeout: 3000 })
    act(() => result.current.edit(doc('second'), null))
    await waitFor(() => expect(result.current.draft?.status.kind).toBe('saved'), { timeout: 10_000 })
    expect(sent).toEqual(['first', 'second'])
    expect(result.current.draft).toMatchObject({ document: { note: 'second' }, revision: 2 })
  })
})
