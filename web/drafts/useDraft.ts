import { useCallback, useEffect, useMemo, useState } from 'react'
import { writeStored } from '../app/stored.ts'
import {
  type DraftPlace,
  dropDraft,
  endDraft,
  hearServer,
  meetSaved,
  meetSavedUnlessEnded,
  openLine,
  sendDraft,
  storageKey,
} from './draftLine.ts'
import type { DraftState, KeptDraft, Made } from './draftState.ts'

const SAVE_AFTER_MS = 700
const RETRY_AFTER_MS = 4_000

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

/**
 * A draft: kept on this device with every change, sent to the server shortly after, sent again when the connection
 * was away, and compared line by line when somebody else was faster. The same for everything that drafts are written of.
 */
export function useDraft<D extends object>(place: DraftPlace<D>): DraftControl<D> {
  const [line] = useState(() => openLine(place, (state) => show(state)))
  const [draft, show] = useState(line.state)
  line.place = place
  const { server, beneath } = place
  const key = storageKey(place)
  const send = useCallback(() => sendDraft(line), [line])

  const kind = draft?.status.kind
  const document = draft?.document
  const revision = draft?.revision
  // The revision is among them: what was typed while a slow save was on its way goes out after it.
  useEffect(() => {
    const { state } = line
    if (!document || !state || !kind || kind === 'saved') return
    const { baseVersion, common } = state
    writeStored(key, { document, baseVersion, revision: revision ?? 0, common } satisfies KeptDraft<D>)
    if (kind !== 'unsaved' && kind !== 'away') return
    const timer = setTimeout(() => void send(), kind === 'away' ? RETRY_AFTER_MS : SAVE_AFTER_MS)
    return () => clearTimeout(timer)
  }, [document, kind, revision, key, send, line])

  useEffect(() => hearServer(line, server), [server, line])

  // The thing itself was saved beside our draft of it.
  const beneathRevision = beneath?.revision
  const baseVersion = draft?.baseVersion
  useEffect(() => {
    const now = line.place.beneath
    if (!now || beneathRevision === undefined || baseVersion === undefined || baseVersion === null) return
    if (kind === 'conflict' || kind === 'saving' || baseVersion === beneathRevision) return
    if (kind === 'saved') void meetSavedUnlessEnded(line, now)
    else meetSaved(line, now)
  }, [beneathRevision, baseVersion, kind, line])

  const acts = useMemo((): Omit<DraftControl<D>, 'draft'> => {
    const { dispatch } = line
    return {
      edit: (next, base, from) => dispatch({ type: 'edited', document: next, baseVersion: base, from }),
      undo: () => dispatch({ type: 'undone' }),
      redo: () => dispatch({ type: 'redone' }),
      settle: (chosen) => dispatch({ type: 'settled', document: chosen }),
      takeTheirs: () => {
        dispatch({ type: 'tookTheirs' })
        writeStored(storageKey(line.place), undefined)
      },
      drop: () => dropDraft(line),
      end: (made) => endDraft(line, made),
      flush: send,
      meet: (saved) => meetSaved(line, saved),
    }
  }, [line, send])
  return useMemo(() => ({ draft, ...acts }), [draft, acts])
}
