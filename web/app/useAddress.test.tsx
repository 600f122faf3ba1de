import { cleanup, render, screen } from '@testing-library/react'
import { createBrowserRouter, RouterProvider } from 'react-router'
import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import { useAddress } from './useAddress.ts'

afterEach(cleanup)

type Put = ReturnType<typeof useAddress>['put']

/** A page whose ways to change the address are kept, each as it was when the page was drawn. */
async function openList(): Promise<Put[]> {
  const puts: Put[] = []
  function Page() {
    const { search, put } = useAddress()
    puts.push(put)
    return <p>{`asked ${search}`}</p>
  }
  const router = createBrowserRouter([
    { path: '/list', element: <Page /> },
    { path: '/other', element: <p>elsewhere</p> },
  ])
  render(<RouterProvider router={router} />)
  await screen.findByText('asked words=rum')
  return puts
}

describe('what stands in the address', () => {
  beforeEach(() => window.history.replaceState(null, '', '/list?words=rum'))

  it.each([
    ['words, then a row', [{ words: 'rope' }, { open: 'gold' }]],
    ['a row, then words', [{ open: 'gold' }, { words: 'rope' }]],
  ])('keeps both changes that come before the page is drawn again: %s', async (_, [first = {}, second = {}]) => {
    const [put] = await openList()
    put?.(first, 'open' in first)
    put?.(second, 'open' in second)
    const asked = Object.fromEntries(new URLSearchParams((await screen.findByText(/rope/)).textContent?.slice(6)))
    expect(asked).toEqual({ words: 'rope', open: 'gold' })
  })

  it('takes away what is empty and leaves the rest', async () => {
    const [put] = await openList()
    put?.({ sort: 'name' })
    put?.({ words: '' })
    expect(await screen.findByText('asked sort=name')).toBeTruthy()
  })

  it('leads nobody back who has gone on', async () => {
    const [put] = await openList()
    window.history.pushState(null, '', '/other')
    put?.({ words: 'late' })
    expect(window.location.pathname + window.location.search).toBe('/other')
  })
})
