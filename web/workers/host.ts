import type { HouseBook } from '@conch/core/house'
import { type Remote, wrap } from 'comlink'
import { useEffect, useRef, useState, useSyncExternalStore } from 'react'
import { flushSync } from 'react-dom'
import { noteFailure, noteSuccess, useAttempt } from './failures.ts'

interface KnowsHouse {
  setBook: (book: HouseBook) => void
}

const RESTART_AFTER_MS = 1_000
/** A script that did not come so often in a row is said not to come. */
const MOST_RESTARTS = 3

/** A worker that computes with the house in it: started when first asked, and again when its script did not come. */
export function hostWorker<T extends KnowsHouse>(make: () => Worker, onRestart: () => void = () => {}) {
  let remote: Remote<T> | undefined
  let sentBook: HouseBook | undefined
  /** How often it had to be started again; whoever waits for an answer asks anew. */
  let restarts = 0
  let inARow = 0
  const listeners = new Set<() => void>()
  const bookIds = new WeakMap<HouseBook, number>()
  let lastBookId = 0

  const forget = () => {
    remote = undefined
    sentBook = undefined
    onRestart()
  }
  /** A worker whose script could not be fetched answers nobody, ever: another one is started in its place. */
  const start = (): Remote<T> => {
    const worker = make()
    worker.onmessage = () => {
      inARow = 0
    }
    worker.onerror = (event) => {
      worker.terminate()
      inARow += 1
      if (inARow > MOST_RESTARTS) {
        inARow = 0
        forget()
        noteFailure('worker', new Error(event.message || 'the part of the page that computes could not be fetched'))
        return
      }
      setTimeout(() => {
        forget()
        restarts += 1
        for (const ask of listeners) ask()
      }, RESTART_AFTER_MS)
    }
    return wrap<T>(worker)
  }
  const subscribe = (ask: () => void) => {
    listeners.add(ask)
    return () => void listeners.delete(ask)
  }
  return {
    /** The one worker of its kind, with this house in it. */
    withBook(book: HouseBook): Remote<T> {
      remote ??= start()
      if (sentBook !== book) {
        sentBook = book
        // Messages keep their order: the house is there before the drinks that follow.
        void (remote as Remote<KnowsHouse>).setBook(book)
      }
      return remote
    },
    /** A short name for a book object in the worker that runs now, so that a new one of either asks again. */
    keyOf(book: HouseBook): string {
      const id = bookIds.get(book) ?? ++lastBookId
      bookIds.set(book, id)
      return `${restarts}.${id}`
    },
    useRestarts: () => useSyncExternalStore(subscribe, () => restarts),
  }
}

interface HowAsked {
  /** Answers that are on their way already, by key. */
  early?: Map<string, Promise<unknown>>
  /** What is asked about: as long as that is the same, the last answer stays while the next is made. */
  keptFor?: string | undefined
}

/**
 * Runs a request whenever its key changes. What it answered goes with its key: nobody sees one thing's figures under
 * another's name. One that fails is noted where every page shows it, and asked again when somebody says so.
 */
export function useAsked<A>(
  key: string | undefined,
  ask: (() => Promise<A>) | undefined,
  { early, keptFor }: HowAsked = {},
): A | undefined {
  const [answer, setAnswer] = useState<{ key: string; keptFor: string | undefined; value: A }>()
  const attempt = useAttempt()
  const asking = useRef({ ask, keptFor })
  asking.current = { ask, keptFor }
  // biome-ignore lint/correctness/useExhaustiveDependencies: another attempt asks the same again
  useEffect(() => {
    if (key === undefined || !asking.current.ask) return
    let isCurrent = true
    const asked = (early?.get(key) as Promise<A> | undefined) ?? asking.current.ask()
    early?.delete(key)
    asked.then(
      (value) => {
        noteSuccess(key)
        // At once: an answer that waits for its turn is seen a frame later.
        if (isCurrent) flushSync(() => setAnswer({ key, keptFor: asking.current.keptFor, value }))
      },
      (error: unknown) => {
        if (isCurrent) noteFailure(key, error)
      },
    )
    return () => {
      isCurrent = false
      noteSuccess(key)
    }
  }, [key, early, attempt])
  const isStill = answer !== undefined && keptFor !== undefined && answer.keptFor === keptFor
  return answer && (answer.key === key || isStill) ? answer.value : undefined
}
