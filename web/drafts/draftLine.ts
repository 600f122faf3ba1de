import type { Draft } from '@conch/contract'
import { isSame } from '@conch/core/lineage'
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
  /** Asks the server for it anew. */
  ask?: (() => Promise<Draft<D> | null>) | undefined
  /** What the server has now: every page hears of it. */
  heard: (draft: Draft<D> | null) => void
  /** Kept on this device by an earlier version of the page. */
  olderKept?: () => KeptDraft<D> | undefined
}

/** A draft on its way between a page and the server: one message at a time. */
export interface DraftLine<D> {
  place: DraftPlace<D>
  /** As it is at this moment, which the page may not have drawn yet: what is sent next hangs on what came back just now. */
  state: DraftState<D> | undefined
  dispatch: (action: DraftAction<D>) => void
  /** On its way to the server. */
  sending: Promise<number | undefined> | undefined
  dropping: Promise<unknown> | undefined
  /** How often a draft has ended on this page: an answer about an earlier one is not one about this. */
  timesEnded: number
}

/** @param show draws what it has become */
export function openLine<D>(place: DraftPlace<D>, show: (state: DraftState<D> | undefined) => void): DraftLine<D> {
  const line: DraftLine<D> = {
    place,
    state: firstState(place),
    dispatch: (action) => {
      line.state = draftReducer(line.state, action)
      show(line.state)
    },
    sending: undefined,
    dropping: undefined,
    timesEnded: 0,
  }
  return line
}

function firstState<D>(place: DraftPlace<D>): DraftState<D> | undefined {
  const { schema, server, olderKept } = place
  const kept = readStored(storageKey(place), keptOf(schema)) ?? olderKept?.()
  if (kept) return draftReducer<D>(undefined, { type: 'restored', kept, server })
  return server ? draftReducer<D>(undefined, { type: 'loaded', draft: server }) : undefined
}

/** Sends what is not saved yet, after whatever is on its way. @returns the revision; undefined when it did not work */
export async function sendDraft<D>(line: DraftLine<D>): Promise<number | undefined> {
  for (let before = underWay(line); before; before = underWay(line)) await before.catch(() => {})
  const { state } = line
  if (!state || state.status.kind === 'conflict') return undefined
  if (state.status.kind === 'saved') return state.revision
  line.dispatch({ type: 'saving' })
  const sent = sendOnce(line, state).finally(() => {
    if (line.sending === sent) line.sending = undefined
  })
  line.sending = sent
  return sent
}

const underWay = <D>(line: DraftLine<D>): Promise<unknown> | undefined => line.dropping ?? line.sending

async function sendOnce<D>(line: DraftLine<D>, state: DraftState<D>): Promise<number | undefined> {
  const { document, baseVersion, revision } = state
  const times = line.timesEnded
  try {
    const saved = await line.place.send({ document, baseVersion, revision })
    // Dropped while it was on its way: the drop waits for this, and takes it along.
    if (times !== line.timesEnded) return saved.revision
    line.dispatch({ type: 'saved', draft: saved, sent: document })
    if (isSame(line.state?.document, document)) writeStored(storageKey(line.place), undefined)
    line.place.heard(saved)
    return saved.revision
  } catch (error) {
    if (!(error instanceof ApiError)) throw error
    if (times === line.timesEnded) hearRefusal(line, document, error)
    return undefined
  }
}

function hearRefusal<D>({ place, dispatch }: DraftLine<D>, sent: D, { isAway, problem, message }: ApiError): void {
  if (isAway) dispatch({ type: 'away' })
  else if (problem?.code === 'conflict') {
    const theirs = place.readCurrent(problem.current)
    // Ours after all: it arrived, and only the answer was lost on the way.
    if (theirs && isSame(theirs.document, sent)) dispatch({ type: 'saved', draft: theirs, sent })
    else dispatch({ type: 'conflict', theirs: theirs && theirsOf(theirs) })
  } else dispatch({ type: 'refused', message })
}

/**
 * Drops it here and on the server. It is gone at once, so that what is written next is not taken for a part of it; the
 * server follows.
 * @returns takes that back
 * @throws ApiError when the server would not; then it is back
 */
export async function dropDraft<D>(line: DraftLine<D>): Promise<() => void> {
  const { state } = line
  if (!state) return () => {}
  line.timesEnded += 1
  line.dispatch({ type: 'ended' })
  writeStored(storageKey(line.place), undefined)
  const gone = dropOnServer(line, state.revision, line.sending, line.dropping)
  line.dropping = gone
  try {
    await gone
    line.place.heard(null)
  } catch (error) {
    line.dispatch({ type: 'putBack', dropped: state })
    throw error
  } finally {
    if (line.dropping === gone) line.dropping = undefined
  }
  const { document, baseVersion, common } = state
  return () => line.dispatch({ type: 'edited', document, baseVersion, from: common })
}

async function dropOnServer<D>(
  { place }: DraftLine<D>,
  known: number,
  sending: DraftLine<D>['sending'],
  earlier: DraftLine<D>['dropping'],
): Promise<void> {
  await earlier?.catch(() => {})
  const revision = (await sending) ?? known
  if (revision > 0) await place.drop(revision)
}

/** Ends it here: the server made something of it. What was written since goes on as a draft of that. */
export function endDraft<D>(line: DraftLine<D>, made: Made<D>): void {
  line.timesEnded += 1
  line.dispatch({ type: 'ended', made })
  if (!line.state) writeStored(storageKey(line.place), undefined)
  line.place.heard(null)
}

/** The thing itself was saved by somebody else: ours is compared with that. */
export function meetSaved<D>(line: DraftLine<D>, saved: { document: D; revision: number }): void {
  if (!line.state) return
  const theirs: Theirs<D> = {
    document: saved.document,
    baseVersion: saved.revision,
    revision: line.state.revision,
    by: '',
    at: undefined,
    isSaved: true,
  }
  line.dispatch({ type: 'conflict', theirs })
}

/**
 * The thing itself was saved while nothing of ours was unsaved. Mostly it was made of this very draft, which is gone with
 * it: the server knows, and is asked before anybody is bothered.
 */
export async function meetSavedUnlessEnded<D>(
  line: DraftLine<D>,
  saved: { document: D; revision: number },
): Promise<void> {
  const times = line.timesEnded
  try {
    const server = await line.place.ask?.()
    if (server !== undefined) hearServer(line, server)
  } catch {
    // Who cannot be asked now is asked when it is written on.
    return
  }
  const { state } = line
  const isStill = state?.status.kind === 'saved' && times === line.timesEnded
  if (isStill && state.baseVersion !== null && state.baseVersion !== saved.revision) meetSaved(line, saved)
}

/** Somebody else saved while nothing of ours was unsaved: theirs is the draft now. */
export function hearServer<D>(line: DraftLine<D>, server: Draft<D> | null): void {
  const { state } = line
  if (underWay(line)) return
  if (!state && server) line.dispatch({ type: 'loaded', draft: server })
  if (state?.status.kind !== 'saved') return
  if (!server) line.dispatch({ type: 'ended' })
  else if (server.revision > state.revision) line.dispatch({ type: 'loaded', draft: server })
}

export const storageKey = ({ key, isSealed }: { key: string; isSealed?: boolean | undefined }) =>
  `${isSealed ? SEALED_KEYS : 'conch:'}draft:${key}`

const keptOf = <D>(schema: z.ZodType<D>): z.ZodType<KeptDraft<D>> =>
  z.object({
    document: schema,
    baseVersion: z.number().nullable(),
    revision: z.number(),
    common: schema.optional(),
  }) as unknown as z.ZodType<KeptDraft<D>>
