import type { DrinkDocument } from '@conch/core/drink'
import type { HouseBook } from '@conch/core/house'
import { type TuneResult, wellsThatMake } from '@conch/core/tune'
import { useEffect, useState } from 'react'
import { tuneOnce } from '../../workers/tune.ts'

/** A drink that is to be tuned. */
export interface ToTune {
  key: string
  document: DrinkDocument
}

/** What brings each of some drinks to its standard at every well that can make it, one after the other. */
export function useTunedAll(book: HouseBook, drinks: readonly ToTune[]): ReadonlyMap<string, TuneResult> {
  const of = JSON.stringify(drinks)
  const [found, setFound] = useState<{ of: string; book: HouseBook; results: ReadonlyMap<string, TuneResult> }>()
  // biome-ignore lint/correctness/useExhaustiveDependencies: the drinks as text hold all of them
  useEffect(() => {
    let isCurrent = true
    const search = async () => {
      const results = new Map<string, TuneResult>()
      for (const { key, document } of drinks) {
        const asked = { document, standard: document.standard, wells: wellsThatMake(document, book) }
        const result = await tuneOnce(book, asked).catch(
          (e: Error): TuneResult => ({ outcome: 'problem', problems: [{ path: [], message: e.message }] }),
        )
        if (!isCurrent) return
        if (result) setFound({ of, book, results: new Map(results.set(key, result)) })
      }
    }
    void search()
    return () => {
      isCurrent = false
    }
  }, [of, book])
  return found?.of === of && found.book === book ? found.results : NONE
}

const NONE: ReadonlyMap<string, TuneResult> = new Map()
