/** What somebody is asked before something is saved that hurts the menu. */

import type { Foresight } from '@conch/contract'
import { followed } from '../ui/followed.ts'

interface Question {
  foresight: Foresight
  answer: (isYes: boolean) => void
}

const question = followed<Question | undefined>(undefined)

/** @returns whether it is to be saved */
export const askBeforeSaving = (foresight: Foresight): Promise<boolean> => {
  question.now()?.answer(false)
  return new Promise((resolve) => {
    question.set({
      foresight,
      answer: (isYes) => {
        question.set(undefined)
        resolve(isYes)
      },
    })
  })
}

export const useQuestion = question.use
