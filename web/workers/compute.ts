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
import type { Computer, GlassAnswer } from './compute.worker.ts'
import { hostWorker, useAsked } from './host.ts'

export type { GlassAnswer }

/** Answers on their way, by key: asked for early, they are not asked for again. */
const early = new Map<string, Promise<unknown>>()

const computer = hostWorker<Computer>(
  () => new Worker(new URL('./compute.worker.ts', import.meta.url), { type: 'module' }),
  () => early.clear(),
)
const computerWith = computer.withBook
const bookId = computer.keyOf

function useComputed<T>(key: string | undefined, ask: (() => Promise<T>) | undefined, subject?: string): T | undefined {
  // Drawn again after a restart, with the new key that it brings.
  computer.useRestarts()
  return useAsked(key, ask, early, subject)
}

const glassKey = (document: DrinkDocument, book: HouseBook, well: string) =>
  `${bookId(book)} ${well} ${JSON.stringify(document)}`

/** Asks for a glass before the page that wants it is drawn: the worker works while the page does. */
export function askEarly(document: DrinkDocument, book: HouseBook, well: string): void {
  early.clear()
  early.set(glassKey(document, book, well), computerWith(book).glass(document, well))
}

/**
 * A drink's glass at a well, computed beside the page. The last one stays while the next is made, as long as it is the
 * glass of the same thing: one version's figures are never seen under another's heading.
 * @param subject what is looked at, e.g. the number of a version
 */
export function useGlass(
  document: DrinkDocument | undefined,
  book: HouseBook | undefined,
  well: string | undefined,
  subject = '',
): GlassAnswer | undefined {
  const isReady = document && book && well
  const key = isReady ? glassKey(document, book, well) : undefined
  const ask = isReady ? async () => computerWith(book).glass(document, well) : undefined
  return useComputed<GlassAnswer>(key, ask, `${well} ${subject}`)
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
