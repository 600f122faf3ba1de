/** Answers of the house that this device keeps. What cannot be kept is asked for again another time: no error of a page. */

import type { Audience } from '@conch/contract'
import { type KeptAnswer, openStore } from './store.ts'

const MOST_ANSWERS = 600
const TRIM_TO = 500
/** Of so many that are kept one looks whether there are too many. */
const TRIM_EVERY = 50
let untilTrim = TRIM_EVERY

/** @param isStill whether whoever it is for is still here, when it comes to writing it down */
export async function keepAnswer(answer: KeptAnswer, isStill: () => boolean): Promise<void> {
  try {
    const db = await openStore()
    if (!isStill()) return
    await db.put('answers', answer)
    untilTrim -= 1
    if (untilTrim > 0) return
    untilTrim = TRIM_EVERY
    await trim()
  } catch {
    // Full, or forbidden: what is shown is there as long as the page is.
  }
}

/** The oldest go. */
async function trim(): Promise<void> {
  const tx = (await openStore()).transaction('answers', 'readwrite')
  let left = (await tx.store.count()) - TRIM_TO
  if (left <= MOST_ANSWERS - TRIM_TO) return
  for (let cursor = await tx.store.index('at').openCursor(); cursor && left > 0; cursor = await cursor.continue()) {
    await cursor.delete()
    left -= 1
  }
  await tx.done
}

export async function findAnswer(path: string, audience: Audience): Promise<KeptAnswer | undefined> {
  try {
    return await (await openStore()).get('answers', [audience, path])
  } catch {
    return undefined
  }
}

/** What was kept for these is not left lying. */
export async function forgetAnswers(...audiences: Audience[]): Promise<void> {
  try {
    const tx = (await openStore()).transaction('answers', 'readwrite')
    for (const audience of audiences) await tx.store.delete(IDBKeyRange.bound([audience], [audience, []]))
    await tx.done
  } catch {
    // Where nothing can be kept nothing lies.
  }
}

/** When the newest of them came, ms of this device's clock; undefined: none is kept. */
export async function newestKept(audience: Audience): Promise<number | undefined> {
  try {
    const all = (await openStore()).transaction('answers').store.index('at')
    for (let cursor = await all.openCursor(null, 'prev'); cursor; cursor = await cursor.continue())
      if (cursor.value.audience === audience) return cursor.value.at
    return undefined
  } catch {
    return undefined
  }
}
