import type { Draft } from '@conch/contract'
import { describe, expect, it } from 'vitest'
import { type DraftAction, type DraftState, draftReducer, theirsOf } from './draftState.ts'

interface Doc {
  name: string
  note: string
}
const doc = (note: string): Doc => ({ name: 'X', note })
const onServer = (note: string, revision: number, savedBy = 'Ada'): Draft<Doc> => ({
  subject: 'x',
  baseVersion: 1,
  document: doc(note),
  revision,
  savedBy,
  savedAt: '2026-01-01T00:00:00Z',
})
const play = (...actions: DraftAction<Doc>[]) => actions.reduce<DraftState<Doc> | undefined>(draftReducer, undefined)
const edit = (note: string): DraftAction<Doc> => ({ type: 'edited', document: doc(note), baseVersion: 1 })

describe('a draft', () => {
  it('begins with the first edit, on the version it came from', () => {
    expect(play(edit('a'))).toMatchObject({ baseVersion: 1, revision: 0, past: [], status: { kind: 'unsaved' } })
  })

  it('is undone and redone step by step; a new edit forgets the future', () => {
    const state = play(edit('a'), edit('b'), edit('c'), { type: 'undone' }, { type: 'undone' })
    expect(state?.document.note).toBe('a')
    expect(draftReducer(state, { type: 'redone' })?.document.note).toBe('b')
    expect(draftReducer(state, edit('d'))?.future).toEqual([])
    expect(draftReducer(play(edit('a')), { type: 'undone' })?.document.note).toBe('a')
  })

  it('does not count an edit that changes nothing', () => {
    const state = play(edit('a'))
    expect(draftReducer(state, edit('a'))).toBe(state)
  })

  it('stays unsaved when something was typed while it was on its way', () => {
    const state = play(edit('a'), { type: 'saving' }, edit('b'), {
      type: 'saved',
      draft: onServer('a', 3),
      sent: doc('a'),
    })
    expect(state).toMatchObject({ revision: 3, document: { note: 'b' }, status: { kind: 'unsaved' } })
  })

  it('is saved when the server has what stands here', () => {
    expect(play(edit('a'), { type: 'saved', draft: onServer('a', 3), sent: doc('a') })?.status.kind).toBe('saved')
  })
})

describe('two people', () => {
  const conflict: DraftAction<Doc>[] = [edit('mine'), { type: 'conflict', theirs: theirsOf(onServer('theirs', 7)) }]

  it('keep mine: the next save goes on top of theirs', () => {
    expect(play(...conflict, { type: 'settled', document: doc('mine') })).toMatchObject({
      revision: 7,
      document: { note: 'mine' },
      status: { kind: 'unsaved' },
    })
  })

  it('take theirs: mine is one undo away', () => {
    const state = play(...conflict, { type: 'tookTheirs' })
    expect(state).toMatchObject({ revision: 7, document: { note: 'theirs' }, status: { kind: 'saved' } })
    expect(draftReducer(state, { type: 'undone' })?.document.note).toBe('mine')
  })

  it('take some of each: the merged one goes on top of theirs, with mine one undo away', () => {
    const state = play(...conflict, { type: 'settled', document: doc('both') })
    expect(state).toMatchObject({ revision: 7, document: { note: 'both' }, common: { note: 'theirs' } })
    expect(draftReducer(state, { type: 'undone' })?.document.note).toBe('mine')
  })

  it('what was saved beneath the draft is taken over into it, and has to be sent', () => {
    const saved = { ...theirsOf(onServer('saved', 3)), baseVersion: 9, isSaved: true }
    const state = play(edit('mine'), { type: 'conflict', theirs: saved }, { type: 'tookTheirs' })
    expect(state).toMatchObject({ baseVersion: 9, document: { note: 'saved' }, status: { kind: 'unsaved' } })
  })

  it('go on comparing while one goes on writing', () => {
    expect(play(...conflict, edit('mine, longer'))?.status.kind).toBe('conflict')
  })

  it('when theirs became a version, mine can begin anew or go', () => {
    const gone: DraftAction<Doc>[] = [edit('mine'), { type: 'conflict', theirs: null }]
    expect(play(...gone, { type: 'settled', document: doc('mine') })).toMatchObject({
      revision: 0,
      status: { kind: 'unsaved' },
    })
    expect(play(...gone, { type: 'tookTheirs' })).toBeUndefined()
  })
})

describe('after a reload', () => {
  const kept = { document: doc('kept'), baseVersion: 1, revision: 4 }
  it('what the device kept goes on where it was', () => {
    expect(play({ type: 'restored', kept, server: onServer('older', 4) })).toMatchObject({
      document: { note: 'kept' },
      status: { kind: 'unsaved' },
    })
  })
  it('what had arrived before the answer was lost is simply there', () => {
    expect(play({ type: 'restored', kept, server: onServer('kept', 5) })).toMatchObject({
      revision: 5,
      status: { kind: 'saved' },
    })
  })
  it('what somebody else saved meanwhile is compared', () => {
    expect(play({ type: 'restored', kept, server: onServer('newer', 5) })?.status).toMatchObject({
      kind: 'conflict',
      theirs: { revision: 5 },
    })
  })
})
