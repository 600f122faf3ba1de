import type { StationFigures, Trial } from '@conch/core/calibration'
import type { DrinkDocument, Standard } from '@conch/core/drink'
import type { HouseBook } from '@conch/core/house'
import type { Tolerance, ToleranceOptions } from '@conch/core/means'
import type { StationKey } from '@conch/core/trials'
import { proxy } from 'comlink'
import { useEffect, useRef, useState } from 'react'
import type { Bench } from './bench.worker.ts'
import { hostWorker, useAsked } from './host.ts'

export type { Curve, WellMeans } from './bench.worker.ts'

/** A worker of its own: what takes its time on the bench does not keep a margin waiting. */
const bench = hostWorker<Bench>(() => new Worker(new URL('./bench.worker.ts', import.meta.url), { type: 'module' }))

function useBench<T>(
  book: HouseBook,
  question: unknown[] | undefined,
  ask: (b: ReturnType<typeof bench.withBook>) => Promise<T>,
  /** While this is the same, the last answer is a right one, too. */
  about?: unknown[],
): T | undefined {
  bench.useRestarts()
  const keyOf = (asked: unknown[]) => `${bench.keyOf(book)} ${JSON.stringify(asked)}`
  const keptFor = about && keyOf(about)
  return useAsked(question && keyOf(question), question && (() => ask(bench.withBook(book))), { keptFor })
}

export const useWellMeans = (book: HouseBook, document: DrinkDocument | undefined) =>
  useBench(book, document && ['wells', document], (b) => b.wells(document as DrinkDocument))

export const useSwaps = (book: HouseBook, document: DrinkDocument | undefined, well: string) =>
  useBench(book, document && ['swaps', document, well], async (b) => await b.swaps(document as DrinkDocument, well))

/** A curve that ends sooner or later is the same curve. */
export const useCurve = (book: HouseBook, document: DrinkDocument | undefined, well: string, endS: number) =>
  useBench(
    book,
    document && ['curve', document, well, endS],
    (b) => b.curve(document as DrinkDocument, well, endS),
    document && ['curve', document, well],
  )

export const useHand = (book: HouseBook, document: DrinkDocument | undefined, well: string) =>
  useBench(book, document && ['hand', document, well], (b) => b.hand(document as DrinkDocument, well))

export const useFits = (book: HouseBook, documents: DrinkDocument[] | undefined) =>
  useBench(book, documents && ['fits', documents], (b) => b.fits(documents as DrinkDocument[]))

export const useCalibration = (book: HouseBook, trials: Trial[] | undefined, key: StationKey) =>
  useBench(
    book,
    trials && ['calibration', trials.map((t) => t.id), key],
    async (b) => await b.calibration(trials as Trial[], key),
  )

export const useLeavers = (
  book: HouseBook,
  documents: DrinkDocument[] | undefined,
  key: StationKey,
  figures: StationFigures | undefined,
) =>
  useBench(book, documents && figures && ['leavers', documents, key, figures], (b) =>
    b.leavers(documents as DrinkDocument[], key, figures as StationFigures),
  )

/** Asked once, not followed: another glass is another question. */
export const scaleOnBench = (book: HouseBook, document: DrinkDocument, well: string, glass: string) =>
  bench.withBook(book).scaled(document, well, glass)

export interface ToleranceRun {
  progress: number | undefined
  answer: Tolerance | undefined
  start: (options: ToleranceOptions) => void
  stop: () => void
}

/** A run of many makings, with its progress; a change of the drink makes the answer an old one, and it goes. */
export function useTolerance(book: HouseBook, document: DrinkDocument, well: string, standard: Standard): ToleranceRun {
  const [progress, setProgress] = useState<number>()
  const [answer, setAnswer] = useState<{ of: string; value: Tolerance }>()
  const of = JSON.stringify([document, well, bench.keyOf(book)])
  /** The run whose words still count: what an older one had on its way comes after it was stopped. */
  const current = useRef(0)
  const end = () => {
    current.current += 1
    void bench.withBook(book).stop()
    setProgress(undefined)
  }
  // Leaving the page, or another drink, stops what runs.
  // biome-ignore lint/correctness/useExhaustiveDependencies: the run belongs to what it was asked of
  useEffect(() => end, [of])
  return {
    progress,
    answer: answer?.of === of ? answer.value : undefined,
    start(options) {
      const run = ++current.current
      const isCurrent = () => run === current.current
      setProgress(0)
      setAnswer(undefined)
      const hear = proxy((fraction: number) => isCurrent() && setProgress(fraction))
      void bench
        .withBook(book)
        .tolerance(document, well, standard, options, hear)
        .then((value) => {
          if (!value || !isCurrent()) return
          // A word of progress may still be on its way, by another channel.
          current.current += 1
          setProgress(undefined)
          setAnswer({ of, value })
        })
    },
    stop: end,
  }
}
