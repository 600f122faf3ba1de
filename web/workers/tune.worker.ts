import type { HouseBook } from '@conch/core/house'
import { type TuneAsked, type TuneResult, tuning } from '@conch/core/tune'
import { expose } from 'comlink'

let book: HouseBook | undefined
/** Which search is wanted; an older one stops at its next breath. */
let wanted = 0
/** It looks up so often whether it is still wanted, ms. */
const BREATH_MS = 60

const tuner = {
  setBook(next: HouseBook) {
    book = next
  },
  /** Undefined when it was stopped. */
  async tune(asked: Omit<TuneAsked, 'book'>, onProgress: (fraction: number) => void): Promise<TuneResult | undefined> {
    const run = ++wanted
    if (!book) return { outcome: 'problem', problems: [{ path: [], message: 'the house is not loaded yet' }] }
    const steps = tuning({ ...asked, book })
    let last = performance.now()
    for (;;) {
      const { value, done } = steps.next()
      if (done) return value
      if (performance.now() - last < BREATH_MS) continue
      onProgress(value)
      await new Promise((resolve) => setTimeout(resolve))
      if (run !== wanted) return undefined
      last = performance.now()
    }
  },
  stop() {
    wanted += 1
  },
}

export type Tuner = typeof tuner
expose(tuner)
