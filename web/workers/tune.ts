import type { HouseBook } from '@conch/core/house'
import type { TuneAsked, TuneResult } from '@conch/core/tune'
import { proxy } from 'comlink'
import { useEffect, useState } from 'react'
import { noteFailure, noteSuccess } from './failures.ts'
import { hostWorker } from './host.ts'
import type { Tuner } from './tune.worker.ts'

const tuner = hostWorker<Tuner>(() => new Worker(new URL('./tune.worker.ts', import.meta.url), { type: 'module' }))

export interface Tuned {
  /** Of this very question; undefined: not there yet, or stopped. */
  result: TuneResult | undefined
  /** How much of the search is done, 0 to 1; undefined: nothing is searched. */
  progress: number | undefined
  stop: () => void
}

/** Searches beside the page, whenever the question changes; an older search stops. */
export function useTuned(book: HouseBook, asked: Omit<TuneAsked, 'book'> | undefined): Tuned {
  tuner.useRestarts()
  const key = asked && `${tuner.keyOf(book)} ${JSON.stringify(asked)}`
  const [found, setFound] = useState<{ key: string; result: TuneResult | undefined }>()
  const [progress, setProgress] = useState<{ key: string; fraction: number }>()
  // biome-ignore lint/correctness/useExhaustiveDependencies: the key holds all that is asked
  useEffect(() => {
    if (!asked || key === undefined) return
    let isCurrent = true
    let isDone = false
    // A word of progress may come after the answer, by another channel.
    const hear = proxy((fraction: number) => {
      if (isCurrent && !isDone) setProgress({ key, fraction })
    })
    setProgress({ key, fraction: 0 })
    const worker = tuner.withBook(book)
    worker.tune(asked, hear).then(
      (result) => {
        noteSuccess('tune')
        isDone = true
        if (!isCurrent) return
        setFound({ key, result })
        setProgress(undefined)
      },
      (error: unknown) => {
        if (isCurrent) noteFailure('tune', error)
      },
    )
    return () => {
      isCurrent = false
      void worker.stop()
    }
  }, [key])
  return {
    result: found?.key === key ? found?.result : undefined,
    progress: progress?.key === key ? progress?.fraction : undefined,
    stop: () => {
      if (key === undefined) return
      void tuner.withBook(book).stop()
      setFound({ key, result: undefined })
      setProgress(undefined)
    },
  }
}

/** One search after the other, whatever the pages ask for; undefined: it was stopped by another. */
export async function tuneOnce(book: HouseBook, asked: Omit<TuneAsked, 'book'>): Promise<TuneResult | undefined> {
  return tuner.withBook(book).tune(
    asked,
    proxy(() => undefined),
  )
}
