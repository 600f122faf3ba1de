import type { Foresight } from '@conch/contract'
import { useSyncExternalStore } from 'react'
import { AskFirst } from '../ui/AskFirst.tsx'
import { ForesightLines } from './ForesightLines.tsx'
import { summaryOf } from './words.ts'

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

/** Asks whoever is about to save something that hurts the menu. @returns whether it is to be saved */
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

/** Where it is asked: once on a page. */
export function AskBeforeSaving() {
  const asked = useSyncExternalStore(subscribe, () => question)
  if (!asked) return null
  const { foresight, answer } = asked
  return (
    <AskFirst
      title="This moves the menu"
      lead={
        <>
          <span className="mb-2 block">{summaryOf(foresight).join('; ')}.</span>
          <ForesightLines drinks={foresight.drinks} />
        </>
      }
      main="Save it"
      onClose={() => answer(false)}
      onYes={async () => answer(true)}
    />
  )
}
