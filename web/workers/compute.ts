import type { DrinkDocument } from '@conch/core/drink'
import type { HouseBook } from '@conch/core/house'
import type { CausesAsked, CausesResult } from '@conch/core/menu'
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
/** The one worker that computes, with a house in it; and a short name for that house in a key. */
export const computerWith = computer.withBook
export const bookId = computer.keyOf

/** @param keptFor what it is about: as long as that is the same, the last one stays while the next is made */
export function useComputed<T>(
  key: string | undefined,
  ask: (() => Promise<T>) | undefined,
  keptFor?: string,
): T | undefined {
  // Drawn again after a restart, with the new key that it brings.
  computer.useRestarts()
  return useAsked(key, ask, { early, keptFor })
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
 * glass of the same thing at the same well.
 * @param what is looked at, e.g. the number of a version; left out: the document as it stands
 */
export function useGlass(
  document: DrinkDocument | undefined,
  book: HouseBook | undefined,
  well: string | undefined,
  what?: string,
): GlassAnswer | undefined {
  const isReady = document && book && well
  const key = isReady ? glassKey(document, book, well) : undefined
  const ask = isReady ? async () => computerWith(book).glass(document, well) : undefined
  return useComputed<GlassAnswer>(key, ask, isReady && what !== undefined ? `${well} ${what}` : undefined)
}

/**
 * The glasses of many drinks at a well, in their order: what is not known yet is left out at its place. Those that are
 * known stay while others are computed.
 */
export function useGlasses(
  documents: readonly DrinkDocument[],
  book: HouseBook,
  well: string,
  isReady: boolean,
): (GlassAnswer | undefined)[] {
  const keys = documents.map((document) => JSON.stringify(document))
  const key = isReady && keys.length > 0 ? `${bookId(book)} ${well} ${keys.join()}` : undefined
  const ask = async () => {
    const answers = await computerWith(book).glasses(documents.map((document) => ({ document, well })))
    return new Map(keys.map((k, i) => [k, answers[i]]))
  }
  const known = useComputed(key, key === undefined ? undefined : ask, well)
  return keys.map((k) => known?.get(k))
}

/** @param what is looked at, as for its glass */
export function useChillCurve(document: DrinkDocument, book: HouseBook, well: string, endS: number, what?: string) {
  const key = `${bookId(book)} ${well} ${endS} ${JSON.stringify(document)}`
  const keptFor = what === undefined ? undefined : `${well} ${what}`
  return useComputed(key, () => computerWith(book).curve(document, well, endS), keptFor)
}

/** Stand-ins searched for beside the page; the last answer stays while the same amount of the same thing is weighed otherwise. */
export function useStandIns(
  book: HouseBook,
  target: StandInTarget | undefined,
  bottles: StandInBottle[],
  options: Omit<StandInOptions, 'canPour'>,
  pourableMl: number[],
): StandInResult | undefined {
  const key = target && `${bookId(book)} ${JSON.stringify([target, bottles, options, pourableMl])}`
  const ask = target && (async () => computerWith(book).standIns(target, bottles, options, pourableMl))
  return useComputed(key, ask, target && JSON.stringify([target, options.volumeMl, options.stepMl]))
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

/** What moved a drink since an edition locked it; undefined: not asked, or being computed. */
export function useCauses(asked: CausesAsked | undefined): CausesResult | undefined {
  const { today, ...rest } = asked ?? {}
  const key =
    asked &&
    today &&
    `causes ${bookId(today)} ${asked.well} ${JSON.stringify([asked.document, asked.lockedPredictions])}`
  const ask = asked && today ? async () => computerWith(today).causes(rest as Omit<CausesAsked, 'today'>) : undefined
  return useComputed<CausesResult>(key, ask)
}
