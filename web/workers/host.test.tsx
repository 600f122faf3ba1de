/** The worker host: what it sends, what it does when the script does not come, and which answer stands. */

import type { HouseBook } from '@conch/core/house'
import { act, cleanup, render, renderHook, screen } from '@testing-library/react'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { tryAgain, useFailure } from './failures.ts'
import { hostWorker, useAsked } from './host.ts'

/** A worker that only takes notes. */
class NotedWorker {
  static all: NotedWorker[] = []
  readonly sent: { path?: string[]; argumentList?: { value: unknown }[] }[] = []
  isEnded = false
  onmessage: ((event: MessageEvent) => void) | null = null
  onerror: ((event: { message: string }) => void) | null = null
  constructor() {
    NotedWorker.all.push(this)
  }
  postMessage(message: never): void {
    this.sent.push(message)
  }
  addEventListener(): void {}
  removeEventListener(): void {}
  terminate(): void {
    this.isEnded = true
  }
}

const failure = () => renderHook(() => useFailure()).result.current?.message

interface Counter {
  setBook: (book: HouseBook) => void
  count: (what: string) => Promise<number>
}

const host = () => hostWorker<Counter>(() => new NotedWorker() as unknown as Worker)
const aBook = () => ({ wells: [] }) as unknown as HouseBook
const paths = (worker: NotedWorker | undefined) => worker?.sent.map((m) => m.path?.join('.'))

describe('the worker', () => {
  beforeEach(() => {
    vi.useFakeTimers()
    NotedWorker.all = []
  })
  afterEach(() => vi.useRealTimers())

  it('is started when it is first asked, and gets a house once, before what is asked of it', () => {
    const workers = host()
    expect(NotedWorker.all).toHaveLength(0)
    const [one, two] = [aBook(), aBook()]
    void workers.withBook(one).count('a')
    void workers.withBook(one).count('b')
    void workers.withBook(two).count('c')
    expect(NotedWorker.all).toHaveLength(1)
    expect(paths(NotedWorker.all[0])).toEqual(['setBook', 'count', 'count', 'setBook', 'count'])
  })

  it('has a name for each house that changes when the worker does', () => {
    const workers = host()
    const [one, two] = [aBook(), aBook()]
    const before = workers.keyOf(one)
    expect(workers.keyOf(one)).toBe(before)
    expect(workers.keyOf(two)).not.toBe(before)
    void workers.withBook(one)
    NotedWorker.all[0]?.onerror?.({ message: '' })
    expect(NotedWorker.all[0]?.isEnded).toBe(true)
    vi.advanceTimersByTime(1_000)
    expect(workers.keyOf(one)).not.toBe(before)
    void workers.withBook(one)
    expect(NotedWorker.all).toHaveLength(2)
    expect(paths(NotedWorker.all[1])).toEqual(['setBook'])
  })

  it('is said not to come when it did not three times in a row, and not when it answered in between', () => {
    const workers = host()
    const fail = () => {
      void workers.withBook(aBook())
      NotedWorker.all.at(-1)?.onerror?.({ message: 'no script' })
      vi.advanceTimersByTime(1_000)
    }
    for (let i = 0; i < 3; i++) fail()
    void workers.withBook(aBook())
    NotedWorker.all.at(-1)?.onmessage?.({} as MessageEvent)
    for (let i = 0; i < 3; i++) fail()
    expect(failure()).toBeUndefined()
    fail()
    expect(failure()).toBe('no script')
    tryAgain()
    expect(failure()).toBeUndefined()
  })
})

describe('an answer', () => {
  afterEach(cleanup)

  function Asks({ what, ask, keptFor }: { what: string; ask: () => Promise<string>; keptFor?: string }) {
    return <output>{useAsked(what, ask, { keptFor }) ?? 'nothing yet'}</output>
  }
  const shown = () => screen.getByRole('status').textContent

  it('stays until the next one of the same thing, and one that comes too late is not shown', async () => {
    const answers = new Map<string, (value: string) => void>()
    const ask = (key: string) => () => new Promise<string>((resolve) => answers.set(key, resolve))
    const page = render(<Asks what="a" ask={ask('a')} keptFor="4" />)
    expect(shown()).toBe('nothing yet')
    await act(async () => answers.get('a')?.('first'))
    expect(shown()).toBe('first')
    page.rerender(<Asks what="b" ask={ask('b')} keptFor="4" />)
    page.rerender(<Asks what="c" ask={ask('c')} keptFor="4" />)
    expect(shown()).toBe('first')
    await act(async () => answers.get('c')?.('third'))
    await act(async () => answers.get('b')?.('second, late'))
    expect(shown()).toBe('third')
  })

  it.each([
    ['of another thing', '4', '6'],
    ['where nobody says what it is of', undefined, undefined],
  ])('is not shown for the next question %s, unless both ask the same', async (_, before, after) => {
    const ask = (value: string) => () => Promise.resolve(value)
    const kept = (keptFor: string | undefined) => (keptFor === undefined ? {} : { keptFor })
    const page = render(<Asks what="16.9" ask={ask('16.9')} {...kept(before)} />)
    await act(async () => {})
    expect(shown()).toBe('16.9')
    page.rerender(<Asks what="18.2" ask={ask('18.2')} {...kept(after)} />)
    expect(shown()).toBe('nothing yet')
    await act(async () => {})
    expect(shown()).toBe('18.2')
    page.rerender(<Asks what="18.2" ask={ask('18.2')} keptFor="draft" />)
    expect(shown()).toBe('18.2')
  })

  it('that fails is noted, and no longer once something else is asked', async () => {
    const page = render(<Asks what="x" ask={() => Promise.reject(new Error('out of reach'))} />)
    await act(async () => {})
    expect(failure()).toBe('out of reach')
    page.rerender(<Asks what="y" ask={() => Promise.resolve('there')} />)
    await act(async () => {})
    expect(failure()).toBeUndefined()
    expect(shown()).toBe('there')
  })
})
