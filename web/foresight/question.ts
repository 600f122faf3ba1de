/** What somebody is asked before something is saved that hurts the menu. */

import type { Foresight } from '@conch/contract'
import { useSyncExternalStore } from 'react'

interface Question {
  foresight: Foresight
  answer: (isYes: boolean) => void
}

let question: Question | undefined
const listeners = new Set<() => void>()
function set(next: Question | undefined): void {
  question = next
  for (const changed of listeners) changed()
}
const subscribe = (changed: () => void) => {
  listeners.add(changed)
  return () => void listeners.delete(changed)
}

/** @returns whether it is to be saved */
export const askBeforeSaving = (foresight: Foresight): Promise<boolean> => {
  question?.answer(false)
  return new Promise((resolve) => {
    set({
      foresight,
      answer: (isYes) => {
        set(undefined)
        resolve(isYes)
      },
    })
  })
}

export const useQuestion = (): Question | undefined => useSyncExternalStore(subscribe, () => question)
