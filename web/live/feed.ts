/**
 * Hears what happens in the house, and has what changed asked for again: soon, together, and not by every device in the same
 * moment. One page of a browser holds the stream and tells the others; only one that is seen, for browsers put the rest to
 * sleep.
 */

import { type FeedFrame, feedFrameSchema, type Present, presentSchema } from '@conch/contract'
import { ApiError, api, firstSequence } from '../app/api.ts'
import { hearHouse, onDoubt, setLine } from '../app/line.ts'
import { queryClient } from '../app/queries.ts'
import { isTouched } from './asked.ts'
import { setPresent } from './present.ts'

/** What happens within so long is asked for together; each device waits a little of its own besides. */
const TOGETHER_MS = 60
const SPREAD_MS = 240
/** Nothing heard for so long: the line is broken, though nobody said so. */
const SILENT_MS = 40_000
/** Who does not say what happened within so long is not heard. */
const CATCH_UP_MS = 6_000
const AGAIN_MS = [300, 700, 1500, 3000, 5000] as const
const NAME = 'conch feed'

type Word =
  | { kind: 'frame'; frame: FeedFrame }
  | { kind: 'present'; present: Present }
  | { kind: 'line'; isLive: boolean }

let last: number | undefined
/** Where one goes on: behind what was heard, else behind the first answer that this page got. */
const addressOfFeed = (): string => {
  const after = last ?? firstSequence()
  return `/api/feed${after === undefined ? '' : `?after=${after}`}`
}
let waiting: Set<string> | 'everything' | undefined
let timer: ReturnType<typeof setTimeout> | undefined

/** Takes what was told; told twice it is asked for once. */
export function hear({ sequence, changed }: FeedFrame): void {
  last = Math.max(last ?? 0, sequence)
  if (changed === 'everything') {
    waiting = 'everything'
    // It may be another house, whose chain is shorter.
    last = sequence
  } else if (changed.length === 0) return
  else if (waiting !== 'everything') waiting = new Set([...(waiting ?? []), ...changed])
  if (timer === undefined) timer = setTimeout(askAgain, TOGETHER_MS + Math.random() * SPREAD_MS)
}

function askAgain(): void {
  timer = undefined
  const changed = waiting === undefined ? [] : waiting === 'everything' ? waiting : [...waiting]
  waiting = undefined
  // What nobody looks at is only known to be old.
  const refetchType = document.visibilityState === 'visible' ? 'active' : 'none'
  void queryClient.invalidateQueries({ predicate: ({ queryKey }) => isTouched(queryKey, changed), refetchType })
}

/**
 * Listens as long as somebody is signed in.
 * @param onLeft they are not any more, or are somebody else: whoever asks next is told
 * @returns ends it
 */
export function listen(onLeft: () => void): () => void {
  const ending = new AbortController()
  const { signal } = ending
  const channel = 'BroadcastChannel' in window ? new BroadcastChannel(NAME) : undefined
  const say = (word: Word) => {
    take(word)
    channel?.postMessage(word)
  }
  channel?.addEventListener('message', (event: MessageEvent<Word>) => take(event.data))
  const run = async () => {
    while (!signal.aborted) {
      await untilSeen(signal)
      if (signal.aborted) break
      await asTheOne(signal, () => holdStream(signal, say, onLeft))
    }
  }
  void run()
  return () => {
    ending.abort()
    channel?.close()
    last = undefined
    setPresent([])
  }
}

function take(word: Word): void {
  if (word.kind === 'frame') hear(word.frame)
  else if (word.kind === 'present') setPresent(word.present)
  else setLine(word.isLive)
}

const untilSeen = (signal: AbortSignal): Promise<void> =>
  new Promise((resolve) => {
    const look = () => {
      if (document.visibilityState !== 'visible' && !signal.aborted) return
      document.removeEventListener('visibilitychange', look)
      signal.removeEventListener('abort', look)
      resolve()
    }
    document.addEventListener('visibilitychange', look)
    signal.addEventListener('abort', look)
    look()
  })

/** Does it while no other page of this browser does; where browsers know no locks, every page that is seen does it. */
async function asTheOne(signal: AbortSignal, work: () => Promise<void>): Promise<void> {
  if (!('locks' in navigator)) return work()
  const waits = new AbortController()
  const give = () => {
    if (document.visibilityState !== 'visible' || signal.aborted) waits.abort()
  }
  document.addEventListener('visibilitychange', give)
  signal.addEventListener('abort', give)
  try {
    await navigator.locks.request(NAME, { signal: waits.signal }, work)
  } catch {
    // Put aside while it waited for its turn.
  } finally {
    document.removeEventListener('visibilitychange', give)
    signal.removeEventListener('abort', give)
  }
}

/** Holds the stream until this page is not seen any more. */
async function holdStream(signal: AbortSignal, say: (word: Word) => void, onLeft: () => void): Promise<void> {
  for (let tries = 0; !signal.aborted && document.visibilityState === 'visible'; tries++) {
    // Once it was heard, a break is a new one.
    const how = await oneStream(signal, say)
    if (how === 'broke') tries = 0
    if (signal.aborted || document.visibilityState !== 'visible') return
    const end = how === 'left' ? how : await catchUp(say)
    if (end === 'left') onLeft()
    else if (end === 'away') say({ kind: 'line', isLive: false })
    if (end !== 'there' || how === 'silent') await pause(AGAIN_MS[Math.min(tries, AGAIN_MS.length - 1)] ?? 5000, signal)
  }
}

/** Asks once what happened meanwhile: which also says whether one still may. */
async function catchUp(say: (word: Word) => void): Promise<'there' | 'away' | 'left'> {
  try {
    const silent = new Promise<never>((_, reject) => setTimeout(reject, CATCH_UP_MS))
    const frame = await Promise.race([api.get(addressOfFeed(), feedFrameSchema), silent])
    say({ kind: 'frame', frame })
    return 'there'
  } catch (error) {
    return error instanceof ApiError && !error.isAway ? 'left' : 'away'
  }
}

/** @returns how it ended: nothing came at all, it broke or this page was put aside, or one is not meant any more */
function oneStream(signal: AbortSignal, say: (word: Word) => void): Promise<'silent' | 'broke' | 'left'> {
  return new Promise((resolve) => {
    const source = new EventSource(addressOfFeed())
    let isHeard = false
    let isLeft = false
    let silence: ReturnType<typeof setTimeout> | undefined
    const end = () => {
      clearTimeout(silence)
      source.close()
      endDoubt()
      document.removeEventListener('visibilitychange', look)
      signal.removeEventListener('abort', end)
      resolve(isLeft ? 'left' : isHeard ? 'broke' : 'silent')
    }
    const look = () => {
      if (document.visibilityState !== 'visible') end()
    }
    // A line that is cut in the middle says nothing of it for long.
    const endDoubt = onDoubt(() => isHeard && end())
    const heard = () => {
      clearTimeout(silence)
      silence = setTimeout(end, SILENT_MS)
      hearHouse()
      if (!isHeard) say({ kind: 'line', isLive: true })
      isHeard = true
    }
    const on = (event: string, then: (data: string) => void) =>
      source.addEventListener(event, (e) => {
        heard()
        then(String((e as MessageEvent).data))
      })
    on('hello', (data) => {
      last ??= Number(data)
    })
    on('beat', () => {})
    on('left', () => {
      isLeft = true
      end()
    })
    on('changed', (data) => {
      const frame = feedFrameSchema.safeParse(parsed(data)).data
      if (frame) say({ kind: 'frame', frame })
    })
    on('present', (data) => {
      const present = presentSchema.safeParse(parsed(data)).data
      if (present) say({ kind: 'present', present })
    })
    source.addEventListener('error', end)
    document.addEventListener('visibilitychange', look)
    signal.addEventListener('abort', end)
    silence = setTimeout(end, SILENT_MS)
  })
}

function parsed(text: string): unknown {
  try {
    return JSON.parse(text)
  } catch {
    return undefined
  }
}

const pause = (ms: number, signal: AbortSignal): Promise<void> =>
  new Promise((resolve) => {
    const end = () => {
      clearTimeout(wait)
      window.removeEventListener('online', end)
      signal.removeEventListener('abort', end)
      resolve()
    }
    const wait = setTimeout(end, ms)
    window.addEventListener('online', end)
    signal.addEventListener('abort', end)
  })
