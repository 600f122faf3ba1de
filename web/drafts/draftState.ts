import type { Draft } from '@conch/contract'
import type { DrinkDocument } from '@conch/core/drink'

/** How far a draft has got on its way to the server. */
export type DraftStatus =
  | { kind: 'saved'; at: string | undefined }
  | { kind: 'unsaved' }
  | { kind: 'saving' }
  | { kind: 'away' }
  | { kind: 'refused'; message: string }
  /** Somebody else saved in between; null when theirs became a version or was dropped. */
  | { kind: 'conflict'; theirs: Draft | null }

export interface DraftState {
  document: DrinkDocument
  baseVersion: number | null
  /** The server's revision that this is made on; 0 for none yet. */
  revision: number
  past: DrinkDocument[]
  future: DrinkDocument[]
  status: DraftStatus
}

export type DraftAction =
  | { type: 'loaded'; draft: Draft }
  | { type: 'restored'; kept: KeptDraft; server: Draft | null }
  | { type: 'edited'; document: DrinkDocument; baseVersion: number | null }
  | { type: 'undone' }
  | { type: 'redone' }
  | { type: 'saving' }
  | { type: 'saved'; draft: Draft; sent: DrinkDocument }
  | { type: 'away' }
  | { type: 'refused'; message: string }
  | { type: 'conflict'; theirs: Draft | null }
  | { type: 'keptMine' }
  | { type: 'tookTheirs' }
  | { type: 'ended' }

/** What is kept on the device until the server has it. */
export interface KeptDraft {
  document: DrinkDocument
  baseVersion: number | null
  revision: number
}

const MOST_UNDO = 200
const UNSAVED: DraftStatus = { kind: 'unsaved' }

const loadedState = (draft: Draft, past: DrinkDocument[] = []): DraftState => ({
  document: draft.document,
  baseVersion: draft.baseVersion,
  revision: draft.revision,
  past,
  future: [],
  status: { kind: 'saved', at: draft.savedAt },
})

const same = (a: DrinkDocument, b: DrinkDocument) => JSON.stringify(a) === JSON.stringify(b)

/** A draft through everything that can happen to it. Undefined: there is none. */
export function draftReducer(state: DraftState | undefined, action: DraftAction): DraftState | undefined {
  switch (action.type) {
    case 'loaded':
      return loadedState(action.draft)
    case 'restored': {
      const { kept, server } = action
      const isOnTop = kept.revision === (server?.revision ?? 0)
      const restored = { ...kept, past: server ? [server.document] : [], future: [], status: UNSAVED }
      return isOnTop ? restored : { ...restored, status: { kind: 'conflict', theirs: server } }
    }
    case 'edited': {
      if (!state) {
        const { document, baseVersion } = action
        return { document, baseVersion, revision: 0, past: [], future: [], status: UNSAVED }
      }
      if (same(state.document, action.document)) return state
      const past = [...state.past, state.document].slice(-MOST_UNDO)
      const status = state.status.kind === 'conflict' ? state.status : UNSAVED
      return { ...state, document: action.document, past, future: [], status }
    }
    case 'undone': {
      const before = state?.past[state.past.length - 1]
      if (!state || !before) return state
      return {
        ...state,
        document: before,
        past: state.past.slice(0, -1),
        future: [state.document, ...state.future],
        status: afterChange(state),
      }
    }
    case 'redone': {
      const [next, ...future] = state?.future ?? []
      if (!state || !next) return state
      return { ...state, document: next, past: [...state.past, state.document], future, status: afterChange(state) }
    }
    case 'saving':
      return state && { ...state, status: { kind: 'saving' } }
    case 'saved': {
      if (!state) return loadedState(action.draft)
      // What was typed while it was on its way is not saved yet.
      const isWhole = same(state.document, action.sent)
      const status: DraftStatus = isWhole ? { kind: 'saved', at: action.draft.savedAt } : UNSAVED
      return { ...state, revision: action.draft.revision, baseVersion: action.draft.baseVersion, status }
    }
    case 'away':
      return state && { ...state, status: { kind: 'away' } }
    case 'refused':
      return state && { ...state, status: { kind: 'refused', message: action.message } }
    case 'conflict':
      return state && { ...state, status: { kind: 'conflict', theirs: action.theirs } }
    case 'keptMine':
      if (state?.status.kind !== 'conflict') return state
      return { ...state, revision: state.status.theirs?.revision ?? 0, status: UNSAVED }
    case 'tookTheirs': {
      if (state?.status.kind !== 'conflict') return state
      const { theirs } = state.status
      // Mine stays one undo away.
      return theirs ? loadedState(theirs, [...state.past, state.document]) : undefined
    }
    case 'ended':
      return undefined
  }
}

const afterChange = (state: DraftState): DraftStatus => (state.status.kind === 'conflict' ? state.status : UNSAVED)
