import type { Draft } from '@conch/contract'
import { isSame } from '@conch/core/lineage'

/** What somebody else has in place of ours. */
export interface Theirs<D> {
  document: D
  baseVersion: number | null
  /** The revision that ours goes on top of, once it is chosen what stays. */
  revision: number
  by: string
  at: string | undefined
  /** Not another draft: the thing itself was saved while ours was being written. */
  isSaved: boolean
}

/** What the server made of a draft. */
export interface Made<D> {
  document: D
  /** The version or revision that it is now. */
  baseVersion: number
}

/** How far a draft has got on its way to the server. */
export type DraftStatus<D> =
  | { kind: 'saved'; at: string | undefined }
  | { kind: 'unsaved' }
  | { kind: 'saving' }
  | { kind: 'away' }
  | { kind: 'refused'; message: string }
  /** Somebody else saved in between; null when theirs became a version, or was dropped. */
  | { kind: 'conflict'; theirs: Theirs<D> | null }

export interface DraftState<D> {
  document: D
  baseVersion: number | null
  /** The server's revision that this is made on; 0 for none yet. */
  revision: number
  /** What it was made from: as the server last had it, or what it was begun from. */
  common: D | undefined
  past: D[]
  future: D[]
  status: DraftStatus<D>
}

export type DraftAction<D> =
  | { type: 'loaded'; draft: Draft<D> }
  | { type: 'restored'; kept: KeptDraft<D>; server: Draft<D> | null }
  | { type: 'edited'; document: D; baseVersion: number | null; from?: D | undefined }
  | { type: 'undone' }
  | { type: 'redone' }
  | { type: 'saving' }
  | { type: 'saved'; draft: Draft<D>; sent: D }
  | { type: 'away' }
  | { type: 'refused'; message: string }
  | { type: 'conflict'; theirs: Theirs<D> | null }
  /** Chosen line by line, or all of mine. */
  | { type: 'settled'; document: D }
  | { type: 'tookTheirs' }
  /** @param made what became of it, when something did: words written since then go on as a draft of that */
  | { type: 'ended'; made?: Made<D> | undefined }
  /** Dropping it did not work. */
  | { type: 'putBack'; dropped: DraftState<D> }

/** What is kept on the device until the server has it. */
export interface KeptDraft<D> {
  document: D
  baseVersion: number | null
  revision: number
  common?: D | undefined
}

const MOST_UNDO = 200

export const theirsOf = <D>({ document, baseVersion, revision, savedBy, savedAt }: Draft<D>): Theirs<D> => ({
  document,
  baseVersion,
  revision,
  by: savedBy,
  at: savedAt,
  isSaved: false,
})

const loadedState = <D>(draft: Draft<D>, past: D[] = []): DraftState<D> => ({
  document: draft.document,
  baseVersion: draft.baseVersion,
  revision: draft.revision,
  common: draft.document,
  past,
  future: [],
  status: { kind: 'saved', at: draft.savedAt || undefined },
})

/** A draft through everything that can happen to it. Undefined: there is none. */
export function draftReducer<D>(state: DraftState<D> | undefined, action: DraftAction<D>): DraftState<D> | undefined {
  switch (action.type) {
    case 'loaded':
      return loadedState(action.draft)
    case 'restored': {
      const { kept, server } = action
      const restored: DraftState<D> = {
        document: kept.document,
        baseVersion: kept.baseVersion,
        revision: kept.revision,
        common: kept.common,
        past: server ? [server.document] : [],
        future: [],
        status: { kind: 'unsaved' },
      }
      if (kept.revision === (server?.revision ?? 0)) return restored
      // It arrived, and only the answer was lost on the way.
      if (server && isSame(server.document, kept.document)) return loadedState(server)
      return { ...restored, status: { kind: 'conflict', theirs: server && theirsOf(server) } }
    }
    case 'edited': {
      if (!state) {
        const { document, baseVersion, from } = action
        const status = { kind: 'unsaved' as const }
        const past = from === undefined ? [] : [from]
        return { document, baseVersion, revision: 0, common: from, past, future: [], status }
      }
      if (isSame(state.document, action.document)) return state
      const past = [...state.past, state.document].slice(-MOST_UNDO)
      return { ...state, document: action.document, past, future: [], status: afterChange(state) }
    }
    case 'undone': {
      const before = state?.past[state.past.length - 1]
      if (!state || before === undefined) return state
      const future = [state.document, ...state.future]
      return { ...state, document: before, past: state.past.slice(0, -1), future, status: afterChange(state) }
    }
    case 'redone': {
      const [next, ...future] = state?.future ?? []
      if (!state || next === undefined) return state
      return { ...state, document: next, past: [...state.past, state.document], future, status: afterChange(state) }
    }
    case 'saving':
      return state && { ...state, status: { kind: 'saving' } }
    case 'saved': {
      const { draft, sent } = action
      if (!state) return loadedState(draft)
      // What was typed while it was on its way is not saved yet.
      const isWhole = isSame(state.document, sent)
      const status: DraftStatus<D> = isWhole ? { kind: 'saved', at: draft.savedAt } : { kind: 'unsaved' }
      const { revision, baseVersion } = draft
      return { ...state, revision, baseVersion, common: draft.document, status }
    }
    case 'away':
      return state && { ...state, status: { kind: 'away' } }
    case 'refused':
      return state && { ...state, status: { kind: 'refused', message: action.message } }
    case 'conflict':
      return state && { ...state, status: { kind: 'conflict', theirs: action.theirs } }
    case 'settled': {
      if (state?.status.kind !== 'conflict') return state
      const { theirs } = state.status
      const past = isSame(state.document, action.document) ? state.past : [...state.past, state.document]
      return {
        ...state,
        document: action.document,
        past,
        future: [],
        revision: theirs?.revision ?? 0,
        baseVersion: theirs ? theirs.baseVersion : state.baseVersion,
        common: theirs?.document,
        status: { kind: 'unsaved' },
      }
    }
    case 'tookTheirs': {
      if (state?.status.kind !== 'conflict') return state
      const { theirs } = state.status
      if (!theirs) return undefined
      // Mine stays one undo away.
      return {
        ...state,
        document: theirs.document,
        baseVersion: theirs.baseVersion,
        revision: theirs.revision,
        common: theirs.document,
        past: [...state.past, state.document],
        future: [],
        // Another draft is on the server as it is; what was saved beneath has to be written into ours.
        status: theirs.isSaved ? { kind: 'unsaved' } : { kind: 'saved', at: theirs.at },
      }
    }
    case 'ended': {
      const { made } = action
      if (!state || !made || isSame(state.document, made.document)) return undefined
      const { document, baseVersion } = made
      return draftReducer<D>(undefined, { type: 'edited', document: state.document, baseVersion, from: document })
    }
    case 'putBack':
      return state ?? { ...action.dropped, status: { kind: 'unsaved' } }
  }
}

const afterChange = <D>(state: DraftState<D>): DraftStatus<D> =>
  state.status.kind === 'conflict' ? state.status : { kind: 'unsaved' }
