import type { Draft, Drink } from '@conch/contract'
import type { DrinkDocument } from '@conch/core/drink'
import { diffDocuments } from '@conch/core/lineage'
import { useQueryClient } from '@tanstack/react-query'
import { useCallback, useEffect, useReducer, useRef } from 'react'
import { ApiError, api } from '../app/api.ts'
import { drinkQuery, drinksQuery } from '../app/queries.ts'
import { readStored, writeStored } from '../app/stored.ts'
import { type DraftState, draftReducer, type KeptDraft } from './draftState.ts'

const SAVE_AFTER_MS = 700
const RETRY_AFTER_MS = 4_000
const keyOf = (slug: string) => `conch:draft:${slug}`

export interface DraftControl {
  draft: DraftState | undefined
  edit: (document: DrinkDocument, baseVersion: number | null) => void
  undo: () => void
  redo: () => void
  keepMine: () => void
  takeTheirs: () => void
  /** Drops the draft here and on the server. */
  drop: () => Promise<void>
  /** Ends it here: the server made a version of it. */
  end: () => void
  /** Sends what is not saved yet, now. Resolves to the revision, or undefined when it did not work. */
  flush: () => Promise<number | undefined>
}

/**
 * The draft of a drink: kept on this device with every change, sent to the server shortly after,
 * sent again when the connection was away, and compared when somebody else was faster.
 */
export function useDraft(drink: Drink): DraftControl {
  const { slug } = drink
  const queryClient = useQueryClient()
  const [draft, dispatch] = useReducer(draftReducer, drink, initialState)
  const latest = useRef(draft)
  latest.current = draft
  const isSending = useRef(false)

  const forget = useCallback(() => {
    writeStored(keyOf(slug), undefined)
    queryClient.invalidateQueries({ queryKey: drinksQuery.queryKey })
  }, [slug, queryClient])

  const send = useCallback(async (): Promise<number | undefined> => {
    const state = latest.current
    if (!state || isSending.current || state.status.kind === 'conflict') return undefined
    if (state.status.kind === 'saved') return state.revision
    isSending.current = true
    dispatch({ type: 'saving' })
    const { document, baseVersion, revision } = state
    try {
      const saved = await api.put<Draft>(`/api/drinks/${slug}/draft`, { document, baseVersion, revision })
      dispatch({ type: 'saved', draft: saved, sent: document })
      if (JSON.stringify(latest.current?.document) === JSON.stringify(document)) writeStored(keyOf(slug), undefined)
      queryClient.setQueryData(drinkQuery(slug).queryKey, (old) => old && { ...old, draft: saved })
      return saved.revision
    } catch (error) {
      if (!(error instanceof ApiError)) throw error
      if (error.isAway) dispatch({ type: 'away' })
      else if (error.problem?.code === 'conflict') {
        const theirs = (error.problem.current as Draft | null) ?? null
        // Ours after all: it arrived, and only the answer was lost on the way.
        const isOurs = theirs !== null && diffDocuments(theirs.document, document).length === 0
        if (isOurs) dispatch({ type: 'saved', draft: theirs, sent: document })
        else dispatch({ type: 'conflict', theirs })
      } else dispatch({ type: 'refused', message: error.message })
      return undefined
    } finally {
      isSending.current = false
    }
  }, [slug, queryClient])

  const kind = draft?.status.kind
  const document = draft?.document
  const revision = draft?.revision
  // The revision is among them: what was typed while a slow save was on its way goes out after it.
  useEffect(() => {
    if (!document || !kind || kind === 'saved') return
    const { baseVersion } = latest.current as DraftState
    writeStored(keyOf(slug), { document, baseVersion, revision: revision ?? 0 } satisfies KeptDraft)
    if (kind !== 'unsaved' && kind !== 'away') return
    const timer = setTimeout(() => void send(), kind === 'away' ? RETRY_AFTER_MS : SAVE_AFTER_MS)
    return () => clearTimeout(timer)
  }, [document, kind, revision, slug, send])

  // Somebody else saved while nothing of ours was unsaved: theirs is the draft now.
  useEffect(() => {
    const state = latest.current
    if (isSending.current) return
    if (!state && drink.draft) dispatch({ type: 'loaded', draft: drink.draft })
    if (state?.status.kind !== 'saved') return
    if (!drink.draft) dispatch({ type: 'ended' })
    else if (drink.draft.revision > state.revision) dispatch({ type: 'loaded', draft: drink.draft })
  }, [drink.draft])

  const drop = useCallback(async () => {
    const { revision } = latest.current ?? { revision: 0 }
    if (revision > 0) await api.delete(`/api/drinks/${slug}/draft/${revision}`)
    queryClient.setQueryData(drinkQuery(slug).queryKey, (old) => old && { ...old, draft: null })
    dispatch({ type: 'ended' })
    forget()
  }, [slug, forget, queryClient])

  const end = useCallback(() => {
    dispatch({ type: 'ended' })
    forget()
  }, [forget])

  const flush = useCallback(async () => {
    for (let tries = 0; isSending.current && tries < 100; tries++) await new Promise((r) => setTimeout(r, 50))
    return send()
  }, [send])

  return {
    draft,
    edit: useCallback((next, baseVersion) => dispatch({ type: 'edited', document: next, baseVersion }), []),
    undo: useCallback(() => dispatch({ type: 'undone' }), []),
    redo: useCallback(() => dispatch({ type: 'redone' }), []),
    keepMine: useCallback(() => dispatch({ type: 'keptMine' }), []),
    takeTheirs: useCallback(() => {
      dispatch({ type: 'tookTheirs' })
      forget()
    }, [forget]),
    drop,
    end,
    flush,
  }
}

function initialState(drink: Drink): DraftState | undefined {
  const kept = readStored<KeptDraft>(keyOf(drink.slug))
  if (kept?.document) return draftReducer(undefined, { type: 'restored', kept, server: drink.draft })
  return drink.draft ? draftReducer(undefined, { type: 'loaded', draft: drink.draft }) : undefined
}
