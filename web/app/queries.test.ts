import { nextMenuSchema } from '@conch/contract'
import { QueryClient, QueryObserver } from '@tanstack/react-query'
import { afterEach, describe, expect, it, vi } from 'vitest'
import { nextMenuQuery } from './queries.ts'

const atHearth = nextMenuSchema.parse({
  poured: [{ drink: 'bell', name: 'Bell', version: 4, chapter: 'Long', locked: { strengthPct: 16.9 } }],
  planned: [
    {
      drink: 'bell',
      name: 'Bell',
      version: 5,
      versions: [4, 5],
      now: { predictions: { strengthPct: { value: 17.5, low: 17, high: 18 } }, stops: [], isOld: false },
    },
  ],
})

describe('the next edition at another well', () => {
  afterEach(() => vi.unstubAllGlobals())

  it('stands as it is planned, without a figure of the well that was looked at before', async () => {
    vi.stubGlobal('fetch', () => new Promise(() => {}))
    const client = new QueryClient()
    client.setQueryData(nextMenuQuery('hearth').queryKey, atHearth)
    const observer = new QueryObserver(client, nextMenuQuery('hearth'))
    const end = observer.subscribe(() => {})
    expect(observer.getCurrentResult().data?.planned[0]?.now?.predictions.strengthPct?.value).toBe(17.5)
    observer.setOptions(nextMenuQuery('courtyard'))
    const shown = observer.getCurrentResult().data
    expect(shown?.planned).toEqual([{ drink: 'bell', name: 'Bell', version: 5, versions: [4, 5] }])
    expect(shown?.poured).toEqual([{ drink: 'bell', name: 'Bell', version: 4, chapter: 'Long' }])
    end()
    client.clear()
  })
})
