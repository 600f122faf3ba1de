import type { DrinkDocument } from '@conch/core/drink'
import type { HouseBook } from '@conch/core/house'
import type {
  StandInAnswer,
  StandInBottle,
  StandInEffectResult,
  StandInOptions,
  StandInResult,
  StandInTarget,
} from '@conch/core/standin'
import { type Remote, wrap } from 'comlink'
import { useEffect, useRef, useState, useSyncExternalStore } from 'react'
import { flushSync } from 'react-dom'
import type { Computer, GlassAnswer } from './compute.worker.ts'

export type { GlassAnswer }

let computer: Remote<Computer> | undefined
let sentBook: HouseBook | undefined

/** How often the worker had to be started again; whoever waits for an answer asks anew. */
let restarts = 0
const onRestart = new Set<() => void>()
const RESTART_AFTER_MS = 1_000

/** A worker whose script could not be fetched answers nobody, ever: another one is started in its place. */
function startWorker(): Remote<Computer> {
  const worker = new Worker(new URL('./compute.worker.ts', import.meta.url), { type: 'module' })
  worker.onerror = () => {
    worker.terminate()
    setTimeout(() => {
      computer = undefined
      sentBook = undefined
      early.clear()
      restarts += 1
      for (const ask of onRestart) ask()
    }, RESTART_AFTER_MS)
  }
  return wrap<Computer>(worker)
}

function subscribeRestart(ask: () => void): () => void {
  onRestart.add(ask)
  return () => onRestart.delete(ask)
}

/** The one worker of this page, with this house in it. */
function computerWith(book: HouseBook): Remote<Computer> {
  computer ??= startWorker()
  if (sentBook !== book) {
    sentBook = book
    // Messages keep their order: the house is there before the drinks that follow.
    void computer.setBook(book)
  }
  return computer
}

/** Answers on their way, by key: asked for early, they are not asked for again. */
const early = new Map<string, Promise<unknown>>()

/** Runs a request in the worker whenever its key changes; keeps the last answer until the next. */
function useComputed<T>(key: string | undefined, ask: (() => Promise<T>) | undefined): T | undefined {
  const [answer, setAnswer] = useState<T>()
  const askRef = useRef(ask)
  askRef.current = ask
  // Drawn again after a restart, with the new key that it brings.
  useSyncExternalStore(subscribeRestart, () => restarts)
  useEffect(() => {
    if (key === undefined || !askRef.current) return
    let isCurrent = true
    const asked = (early.get(key) as Promise<T> | undefined) ?? askRef.current()
    early.delete(key)
    asked.then((value) => {
      // At once: an answer that waits for its turn is seen a frame later.
      if (isCurrent) flushSync(() => setAnswer(() => value))
    })
    return () => {
      isCurrent = false
    }
  }, [key])
  return answer
}

const bookIds = new WeakMap<HouseBook, number>()
let lastBookId = 0
/** A short name for a book object in the worker that runs now, so that a new one of either asks again. */
function bookId(book: HouseBook): string {
  const id = bookIds.get(book) ?? ++lastBookId
  bookIds.set(book, id)
  return `${restarts}.${id}`
}

const glassKey = (document: DrinkDocument, book: HouseBook, well: string) =>
  `${bookId(book)} ${well} ${JSON.stringify(document)}`

/** Asks for a glass before the page that wants it is drawn: the worker works while the page does. */
export function askEarly(document: DrinkDocument, book: HouseBook, well: string): void {
  early.clear()
  early.set(glassKey(document, book, well), computerWith(book).glass(document, well))
}

/** A drink's glass at a well, computed beside the page. The last one stays while the next is made. */
export function useGlass(
  document: DrinkDocument | undefined,
  book: HouseBook | undefined,
  well: string | undefined,
): GlassAnswer | undefined {
  const isReady = document && book && well
  const key = isReady ? glassKey(document, book, well) : undefined
  return useComputed<GlassAnswer>(key, isReady ? async () => computerWith(book).glass(document, well) : undefined)
}

export function useGlasses(
  documents: DrinkDocument[] | undefined,
  book: HouseBook | undefined,
  well: string | undefined,
): GlassAnswer[] | undefined {
  const isReady = documents && book && well
  const key = isReady ? `${bookId(book)} ${well} ${JSON.stringify(documents)}` : undefined
  const ask = isReady ? () => computerWith(book).glasses(documents.map((document) => ({ document, well }))) : undefined
  return useComputed(key, ask)
}

export function useChillCurve(document: DrinkDocument, book: HouseBook, well: string, endS: number) {
  const key = `${bookId(book)} ${well} ${endS} ${JSON.stringify(document)}`
  return useComputed(key, () => computerWith(book).curve(document, well, endS))
}

/** Stand-ins searched for beside the page; undefined until the first answer. */
export function useStandIns(
  book: HouseBook,
  target: StandInTarget | undefined,
  bottles: StandInBottle[],
  options: Omit<StandInOptions, 'canPour'>,
  pourableMl: number[],
): StandInResult | undefined {
  const key = target && `${bookId(book)} ${JSON.stringify([target, bottles, options, pourableMl])}`
  return useComputed(key, target && (async () => computerWith(book).standIns(target, bottles, options, pourableMl)))
}

/** What a stand-in does to a drink at a well. */
export function useStandInEffect(
  book: HouseBook,
  document: DrinkDocument | undefined,
  index: number,
  answer: StandInAnswer | undefined,
  well: string,
): StandInEffectResult | undefined {
  const isReady = document && answer
  const key = isReady ? `${bookId(book)} ${well} ${index} ${JSON.stringify([document, answer.parts])}` : undefined
  const ask = isReady ? async () => computerWith(book).standInEffect(document, index, answer, well) : undefined
  return useComputed<StandInEffectResult>(key, ask)
}
