import type { Draft } from '@conch/contract'
import { isSame } from '@conch/core/lineage'
import { useCallback, useEffect, useMemo, useRef, useState } from 'react'
import { z } from 'zod'
import { ApiError } from '../app/api.ts'
import { readStored, SEALED_KEYS, writeStored } from '../app/stored.ts'
import {
  type DraftAction,
  type DraftState,
  draftReducer,
  type KeptDraft,
  type Made,
  type Theirs,
  theirsOf,
} from './draftState.ts'

const SAVE_AFTER_MS = 700
const RETRY_AFTER_MS = 4_000

/** One thing that drafts are written of: where its draft is on the server and on this device. */
export interface DraftPlace<D> {
  /** Names it on this device: "mix:orgeat". */
  key: string
  /** It goes from the device with whoever may open it. */
  isSealed?: boolean
  /** The form that what is kept on the device must have. */
  schema: z.ZodType<D>
  /** As the server has it; null for none. */
  server: Draft<D> | null
  /** The saved thing under the draft, and its revision, where it may be changed beside it. */
  beneath?: { document: D; revision: number } | undefined
  send: (draft: { document: D; baseVersion: number | null; revision: number }) => Promise<Draft<D>>
  /** What stands on the server, out of a refusal. */
  readCurrent: (current: unknown) => Draft<D> | null
  drop: (revision: number) => Promise<unknown>
  /** What the server has now: every page hears of it. */
  heard: (draft: Draft<D> | null) => void
  /** Kept on this device by an earlier version of the page. */
  olderKept?: () => KeptDraft<D> | undefined
}

export interface DraftControl<D> {
  draft: DraftState<D> | undefined
  /** @param from what was open when this was begun: with it a conflict can say who changed what */
  edit: (document: D, baseVersion: number | null, from?: D) => void
  undo: () => void
  redo: () => void
  /** Ends a conflict with what was chosen. */
  settle: (document: D) => void
  takeTheirs: () => void
  /** Drops the draft here and on the server. @returns takes that back */
  drop: () => Promise<() => void>
  /** Ends it here: the server made something of it. What was written since goes on as a draft of that. */
  end: (made: Made<D>) => void
  /** Sends what is not saved yet, now. Resolves to the revision, or undefined when it did not work. */
  flush: () => Promise<number | undefined>
  /** The thing itself was saved by somebody else: ours is compared with that. */
  meet: (beneath: { document: D; revision: number }) => void
}

const storageKey = ({ key, isSealed }: { key: string; isSealed?: boolean | undefined }) =>
  `${isSealed ? SEALED_KEYS : 'conch:'}draft:${key}`

const keptOf = <D>(schema: z.ZodType<D>): z.ZodType<KeptDraft<D>> =>
  z.object({
    document: schema,
    baseVersion: z.number().nullable(),
    revision: z.number(),
    common: schema.optional(),
  }) as unknown as z.ZodType<KeptDraft<D>>

/**
 * A draft: kept on this device with every change, sent to the server shortly after, sent again when the connection
 * was away, and compared line by line when somebody else was faster. The same for everything that drafts are written of.
 */
export function useDraft<D extends object>(place: DraftPlace<D>): DraftControl<D> {
  const [draft, show] = useState(() => initialState(place))
  // As it is at this moment, which the page may not have drawn yet: what is sent next hangs on what came back just now.
  const latest = useRef(draft)
  const dispatch = useCallback((action: DraftAction<D>) => {
    latest.current = draftReducer(latest.current, action)
    show(latest.current)
  }, [])
  const here = useRef(place)
  here.current = place
  /** On its way to the server: one at a time. */
  const sending = useRef<Promise<number | undefined>>(undefined)
  const dropping = useRef<Promise<unknown>>(undefined)
  /** How often a draft has ended on this page: an answer about an earlier one is not one about this. */
  const ended = useRef(0)
  const { server, beneath } = place
  const key = storageKey(place)

  const send = useCallback(async (): Promise<number | undefined> => {
    for (;;) {
      const before = dropping.current ?? sending.current
      if (!before) break
      await before.catch(() => {})
    }
    const state = latest.current
    if (!state || state.status.kind === 'conflict') return undefined
    if (state.status.kind === 'saved') return state.revision
    dispatch({ type: 'saving' })
    const sent = sendOnce(state).finally(() => {
      if (sending.current === sent) sending.current = undefined
    })
    sending.current = sent
    return sent

    async function sendOnce({ document, baseVersion, revision }: DraftState<D>): Promise<number | undefined> {
      const times = ended.current
      try {
        const saved = await here.current.send({ document, baseVersion, revision })
        // Dropped while it was on its way: the drop waits for this, and takes it along.
        if (times !== ended.current) return saved.revision
        dispatch({ type: 'saved', draft: saved, sent: document })
        if (isSame(latest.current?.document, document)) writeStored(storageKey(here.current), undefined)
        here.current.heard(saved)
        return saved.revision
      } catch (error) {
        if (!(error instanceof ApiError)) throw error
        if (times !== ended.current) return undefined
        if (error.isAway) dispatch({ type: 'away' })
        else if (error.problem?.code === 'conflict') {
          const theirs = here.current.readCurrent(error.problem.current)
          // Ours after all: it arrived, and only the answer was lost on the way.
          if (theirs && isSame(theirs.document, document)) dispatch({ type: 'saved', draft: theirs, sent: document })
          else dispatch({ type: 'conflict', theirs: theirs && theirsOf(theirs) })
        } else dispatch({ type: 'refused', message: error.message })
        return undefined
      }
    }
  }, [dispatch])

  const kind = draft?.status.kind
  const document = draft?.document
  const revision = draft?.revision
  // The revision is among them: what was typed while a slow save was on its way goes out after it.
  useEffect(() => {
    const state = latest.current
    if (!document || !state || !kind || kind === 'saved') return
    const { baseVersion, common } = state
    writeStored(key, { document, baseVersion, revision: revision ?? 0, common } satisfies KeptDraft<D>)
    if (kind !== 'unsaved' && kind !== 'away') return
    const timer = setTimeout(() => void send(), kind === 'away' ? RETRY_AFTER_MS : SAVE_AFTER_MS)
    return () => clearTimeout(timer)
  }, [document, kind, revision, key, send])

  // Somebody else saved while nothing of ours was unsaved: theirs is the draft now.
  useEffect(() => {
    const state = latest.current
    if (sending.current || dropping.current) return
    if (!state && server) dispatch({ type: 'loaded', draft: server })
    if (state?.status.kind !== 'saved') return
    if (!server) dispatch({ type: 'ended' })
    else if (server.revision > state.revision) dispatch({ type: 'loaded', draft: server })
  }, [server, dispatch])

  const meet = useCallback(
    (now: { document: D; revision: number }) => {
      const state = latest.current
      if (!state) return
      const theirs: Theirs<D> = {
        document: now.document,
        baseVersion: now.revision,
        revision: state.revision,
        by: '',
        at: undefined,
        isSaved: true,
      }
      dispatch({ type: 'conflict', theirs })
    },
    [dispatch],
  )

  // The thing itself was saved beside our draft of it.
  const beneathRevision = beneath?.revision
  const baseVersion = draft?.baseVersion
  useEffect(() => {
    const now = here.current.beneath
    if (!now || beneathRevision === undefined || baseVersion === undefined || baseVersion === null) return
    if (kind === 'conflict' || kind === 'saving' || baseVersion === beneathRevision) return
    meet(now)
  }, [beneathRevision, baseVersion, kind, meet])

  const edit = useCallback<DraftControl<D>['edit']>(
    (next, base, from) => dispatch({ type: 'edited', document: next, baseVersion: base, from }),
    [dispatch],
  )
  // It is gone at once, so that what is written next is not taken for a part of it; the server follows.
  const drop = useCallback(async () => {
    const state = latest.current
    if (!state) return () => {}
    ended.current += 1
    dispatch({ type: 'ended' })
    writeStored(storageKey(here.current), undefined)
    const [underWay, earlier] = [sending.current, dropping.current]
    const onTheServer = async () => {
      await earlier?.catch(() => {})
      const revision = (await underWay) ?? state.revision
      if (revision > 0) await here.current.drop(revision)
    }
    const gone = onTheServer()
    dropping.current = gone
    try {
      await gone
      here.current.heard(null)
    } catch (error) {
      dispatch({ type: 'putBack', dropped: state })
      throw error
    } finally {
      if (dropping.current === gone) dropping.current = undefined
    }
    return () => edit(state.document, state.baseVersion, state.common)
  }, [edit, dispatch])
  const end = useCallback(
    (made: Made<D>) => {
      ended.current += 1
      dispatch({ type: 'ended', made })
      if (!latest.current) writeStored(storageKey(here.current), undefined)
      here.current.heard(null)
    },
    [dispatch],
  )

  return useMemo(
    () => ({
      draft,
      edit,
      undo: () => dispatch({ type: 'undone' }),
      redo: () => dispatch({ type: 'redone' }),
      settle: (chosen: D) => dispatch({ type: 'settled', document: chosen }),
      takeTheirs: () => {
        dispatch({ type: 'tookTheirs' })
        writeStored(storageKey(here.current), undefined)
      },
      drop,
      end,
      flush: send,
      meet,
    }),
    [draft, edit, drop, end, send, meet, dispatch],
  )
}

function initialState<D>(place: DraftPlace<D>): DraftState<D> | undefined {
  const { schema, server, olderKept } = place
  const kept = readStored(storageKey(place), keptOf(schema)) ?? olderKept?.()
  if (kept) return draftReducer<D>(undefined, { type: 'restored', kept, server })
  return server ? draftReducer<D>(undefined, { type: 'loaded', draft: server }) : undefined
}
