import type { Draft } from '@conch/contract'
import { QueryClient, QueryClientProvider } from '@tanstack/react-query'
import { act, cleanup, renderHook, waitFor } from '@testing-library/react'
import type { ReactNode } from 'react'
import { afterEach, describe, expect, it } from 'vitest'
import { z } from 'zod'
import { ApiError } from '../app/api.ts'
import type { DraftPlace } from './draftLine.ts'
import { useDraft } from './useDraft.ts'

afterEach(() => {
  cleanup()
  localStorage.clear()
})

const schema = z.object({ note: z.string() })
type Doc = z.infer<typeof schema>
const onServer = (note: string, revision: number, savedBy = 'Ada'): Draft<Doc> => ({
  subject: 'x',
  baseVersion: 1,
  document: { note },
  revision,
  savedBy,
  savedAt: '2026-01-01T00:00:00Z',
})
const wrapper = ({ children }: { children: ReactNode }) => (
  <QueryClientProvider client={new QueryClient()}>{children}</QueryClientProvider>
)
const conflict = (current: unknown) =>
  new ApiError(
    { type: '', title: '', status: 409, detail: 'somebody was faster', code: 'conflict', current },
    'somebody was faster',
  )

function place(changes: Partial<DraftPlace<Doc>>): DraftPlace<Doc> {
  return {
    key: 'x',
    schema,
    server: null,
    send: async ({ document, revision }) => onServer(document.note, revision + 1),
    readCurrent: (current) => (current as Draft<Doc> | null) ?? null,
    drop: async () => undefined,
    heard: () => {},
    ...changes,
  }
}
const open = (changes: Partial<DraftPlace<Doc>>) =>
  renderHook((props: Partial<DraftPlace<Doc>>) => useDraft(place({ ...changes, ...props })), {
    wrapper,
    initialProps: {},
  })

describe('a draft on a slow connection', () => {
  it('sends what was typed while a save was on its way', async () => {
    const sent: string[] = []
    const { result } = open({
      send: async ({ document, revision }) => {
        sent.push(document.note)
        // Longer than the pause after which a draft is sent: the second is due while the first is out.
        await new Promise((r) => setTimeout(r, 1500))
        return onServer(document.note, revision + 1)
      },
    })
    act(() => result.current.edit({ note: 'first' }, null))
    await waitFor(() => expect(sent).toEqual(['first']), { timeout: 3000 })
    act(() => result.current.edit({ note: 'second' }, null))
    await waitFor(() => expect(result.current.draft?.status.kind).toBe('saved'), { timeout: 10_000 })
    expect(sent).toEqual(['first', 'second'])
    expect(result.current.draft).toMatchObject({ document: { note: 'second' }, revision: 2 })
  })
})

describe('sent at once while a save is on its way', () => {
  it('waits for that, and goes on from what it came back with', async () => {
    const revisions: number[] = []
    const answers: (() => void)[] = []
    const { result } = open({
      send: ({ document, revision }) =>
        new Promise((resolve) => {
          revisions.push(revision)
          answers.push(() => resolve(onServer(document.note, revision + 1)))
        }),
    })
    act(() => result.current.edit({ note: 'first' }, null))
    await waitFor(() => expect(answers).toHaveLength(1), { timeout: 3000 })
    act(() => result.current.edit({ note: 'second' }, null))
    const flushed = [result.current.flush(), result.current.flush()]
    await act(async () => answers[0]?.())
    await waitFor(() => expect(answers).toHaveLength(2), { timeout: 3000 })
    await act(async () => answers[1]?.())
    expect(await Promise.all(flushed)).toEqual([2, 2])
    expect(revisions).toEqual([0, 1])
  })
})

describe('two people on one draft', () => {
  it('the second never writes over what they have not seen: it is compared, and then goes on top', async () => {
    const revisions: number[] = []
    const { result } = open({
      send: async ({ document, revision }) => {
        revisions.push(revision)
        if (revision !== 7) throw conflict(onServer('theirs', 7))
        return onServer(document.note, 8)
      },
    })
    act(() => result.current.edit({ note: 'mine' }, 1))
    await waitFor(
      () => expect(result.current.draft?.status).toMatchObject({ kind: 'conflict', theirs: { by: 'Ada' } }),
      {
        timeout: 3000,
      },
    )
    act(() => result.current.settle({ note: 'both' }))
    await waitFor(() => expect(result.current.draft?.status.kind).toBe('saved'), { timeout: 3000 })
    expect(revisions).toEqual([0, 7])
    expect(result.current.draft?.document.note).toBe('both')
  })

  it('the same words twice are no conflict: the first answer was lost on the way', async () => {
    const { result } = open({
      send: async ({ document }) => {
        throw conflict(onServer(document.note, 3))
      },
    })
    act(() => result.current.edit({ note: 'mine' }, 1))
    await waitFor(() => expect(result.current.draft).toMatchObject({ revision: 3, status: { kind: 'saved' } }), {
      timeout: 3000,
    })
  })

  it('the thing itself saved beside the draft is compared, too', async () => {
    const { result, rerender } = open({
      server: onServer('draft', 4),
      beneath: { document: { note: 'old' }, revision: 1 },
    })
    expect(result.current.draft?.status.kind).toBe('saved')
    rerender({ beneath: { document: { note: 'new' }, revision: 2 } })
    await waitFor(() =>
      expect(result.current.draft?.status).toMatchObject({
        kind: 'conflict',
        theirs: { isSaved: true, baseVersion: 2 },
      }),
    )
  })

  it('is no conflict for whoever only looks on when the thing is saved of this very draft: the server says that it ended', async () => {
    let asked = 0
    const watching = open({
      server: onServer('draft', 4),
      beneath: { document: { note: 'old' }, revision: 1 },
      ask: async () => {
        asked += 1
        return null
      },
    })
    // The thing is heard of before the draft is: which comes first nobody knows.
    watching.rerender({ beneath: { document: { note: 'draft' }, revision: 2 } })
    await waitFor(() => expect(watching.result.current.draft).toBeUndefined())
    expect(asked).toBe(1)
    expect(JSON.stringify({ ...localStorage })).not.toContain('draft:x')
    // Who cannot ask is not bothered either, until they write on.
    const alone = open({
      server: onServer('draft', 4),
      beneath: { document: { note: 'old' }, revision: 1 },
      ask: async () => {
        throw new ApiError(undefined, 'away')
      },
    })
    alone.rerender({ beneath: { document: { note: 'new' }, revision: 2 } })
    await act(async () => {})
    expect(alone.result.current.draft?.status.kind).toBe('saved')
  })
})

describe('a draft that is dropped', () => {
  it('can be taken back', async () => {
    const dropped: number[] = []
    const { result } = open({
      server: onServer('kept', 4),
      drop: async (revision) => void dropped.push(revision),
    })
    let takeBack = () => {}
    await act(async () => {
      takeBack = await result.current.drop()
    })
    expect(dropped).toEqual([4])
    act(takeBack)
    expect(result.current.draft).toMatchObject({ document: { note: 'kept' }, revision: 0, status: { kind: 'unsaved' } })
  })

  it('takes nothing along that is written before the server has answered', async () => {
    let answer = () => {}
    const said: string[] = []
    const { result } = open({
      server: onServer('old', 4),
      drop: (revision) =>
        new Promise<void>((resolve) => {
          said.push(`drop ${revision}`)
          answer = resolve
        }),
      send: async ({ document, revision }) => {
        said.push(`${document.note} on ${revision}`)
        return onServer(document.note, 5)
      },
    })
    let dropped: Promise<unknown> = Promise.resolve()
    act(() => {
      dropped = result.current.drop()
    })
    expect(result.current.draft).toBeUndefined()
    act(() => result.current.edit({ note: 'new' }, 1))
    // Longer than the pause after which a draft is sent: it waits until the old one is gone.
    await act(() => new Promise((r) => setTimeout(r, 1000)))
    expect(said).toEqual(['drop 4'])
    await act(async () => {
      answer()
      await dropped
    })
    await waitFor(() => expect(result.current.draft?.status.kind).toBe('saved'), { timeout: 3000 })
    expect(result.current.draft?.document.note).toBe('new')
    expect(said).toEqual(['drop 4', 'new on 0'])
  })

  it('twice in one moment is dropped once', async () => {
    const dropped: number[] = []
    const { result } = open({ server: onServer('old', 4), drop: async (revision) => void dropped.push(revision) })
    await act(async () => {
      const { drop } = result.current
      await Promise.all([drop(), drop()])
    })
    expect(dropped).toEqual([4])
  })

  it('takes along the save that was on its way, and is there again when it did not work', async () => {
    let arrive = () => {}
    const dropped: number[] = []
    const { result } = open({
      server: onServer('old', 4),
      send: ({ document, revision }) =>
        new Promise((resolve) => {
          arrive = () => resolve(onServer(document.note, revision + 1))
        }),
      drop: async (revision) => {
        dropped.push(revision)
        throw new Error('no')
      },
    })
    act(() => result.current.edit({ note: 'typed' }, 1))
    await waitFor(() => expect(result.current.draft?.status.kind).toBe('saving'), { timeout: 3000 })
    let refused: Promise<unknown> = Promise.resolve()
    act(() => {
      refused = result.current.drop().catch((e: Error) => e.message)
    })
    expect(dropped).toEqual([])
    await act(async () => {
      arrive()
      await refused
    })
    expect(await refused).toBe('no')
    expect(dropped).toEqual([5])
    expect(result.current.draft).toMatchObject({ document: { note: 'typed' }, status: { kind: 'unsaved' } })
  })
})

describe('a draft that became something', () => {
  it('ends; what was written while it was saved goes on as a draft of what it became', () => {
    const { result } = open({ server: onServer('saved', 4) })
    act(() => result.current.edit({ note: 'later' }, 1))
    act(() => result.current.end({ document: { note: 'saved' }, baseVersion: 2 }))
    expect(result.current.draft).toMatchObject({ document: { note: 'later' }, baseVersion: 2, revision: 0 })
    act(() => result.current.end({ document: { note: 'later' }, baseVersion: 3 }))
    expect(result.current.draft).toBeUndefined()
  })

  it('is not taken back into by an answer to what was sent before', async () => {
    let refuse = () => {}
    const { result } = open({
      server: onServer('saved', 4),
      send: ({ document, revision }) =>
        revision === 0
          ? Promise.resolve(onServer(document.note, 9))
          : new Promise((_, reject) => {
              refuse = () => reject(conflict(null))
            }),
    })
    act(() => result.current.edit({ note: 'later' }, 1))
    await waitFor(() => expect(result.current.draft?.status.kind).toBe('saving'), { timeout: 3000 })
    act(() => result.current.end({ document: { note: 'saved' }, baseVersion: 2 }))
    await act(async () => refuse())
    await waitFor(() => expect(result.current.draft).toMatchObject({ revision: 9, status: { kind: 'saved' } }), {
      timeout: 3000,
    })
    expect(result.current.draft?.document.note).toBe('later')
  })
})

describe('what is kept on the device', () => {
  it('goes on after a reload; what has another form is left alone', async () => {
    const kept = { document: { note: 'kept' }, baseVersion: 1, revision: 4 }
    localStorage.setItem('conch:draft:x', JSON.stringify(kept))
    expect(open({ server: onServer('older', 4) }).result.current.draft?.document.note).toBe('kept')
    cleanup()
    localStorage.setItem('conch:draft:x', JSON.stringify({ ...kept, document: { words: 3 } }))
    expect(open({ server: onServer('older', 4) }).result.current.draft?.document.note).toBe('older')
  })
})
