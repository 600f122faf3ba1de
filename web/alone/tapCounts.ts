/** How much waits on this device, for the line that says so: the list itself comes when it is opened. */

import { followed } from '../ui/followed.ts'

interface Counts {
  waiting: number
  refused: number
}

const counts = followed<Counts>({ waiting: 0, refused: 0 })

export function setTapCounts(next: Counts): void {
  const { waiting, refused } = counts.now()
  if (next.waiting !== waiting || next.refused !== refused) counts.set(next)
}

export const useTapCounts = counts.use
