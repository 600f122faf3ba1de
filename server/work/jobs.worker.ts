/** What is heavy and needs no database: runs in a thread of its own. */

import { parentPort } from 'node:worker_threads'
import { calibrationFrom } from '@conch/core/means'
import { type EditionLock, type LockResult, lockEdition, modelMoved } from '@conch/core/menu'
import { editionLockSchema } from '@conch/core/menu/schema'
import { formOf } from '@conch/core/schema'
import { Refusal } from '../errors/Refusal.ts'
import { readBottleRows } from '../features/house/readBottleRows.ts'
import { drawLabels } from '../features/lots/drawLabels.ts'
import { computeGlasses } from '../kept/computeGlasses.ts'
import type { JobAnswer } from './pool.ts'

type Lockable = Parameters<typeof lockEdition>
type Fittable = Parameters<typeof calibrationFrom>

interface Calibrating {
  trials: Fittable[0]
  well: Fittable[1]
  station: Fittable[2]
  ice: Fittable[3]
}

/** Versions of before go into a lock as they were: its form is checked, not today's limits. */
const lockForm = formOf(editionLockSchema)

const jobs = {
  labels: ({ labels, isSheet }: { labels: Parameters<typeof drawLabels>[0]; isSheet: boolean }) =>
    drawLabels(labels, { isSheet }),
  bottleRows: readBottleRows,
  keptGlasses: computeGlasses,
  calibrate: ({ trials, well, station, ice }: Calibrating) => calibrationFrom(trials, well, station, ice),
  moved: ({ lock, ...today }: { lock: EditionLock } & Parameters<typeof modelMoved>[1]) => modelMoved(lock, today),
  lock: ({ chapters, book }: { chapters: Lockable[0]; book: Lockable[1] }): LockResult => {
    const locked = lockEdition(chapters, book)
    return locked.ok ? { ok: true, lock: lockForm.parse(locked.lock) } : locked
  },
}
export type Jobs = typeof jobs
export type JobName = keyof Jobs

parentPort?.on('message', async ({ name, data }: { name: JobName; data: never }) => {
  let answer: JobAnswer
  try {
    answer = { value: await jobs[name](data) }
  } catch (error) {
    answer =
      error instanceof Refusal
        ? { refused: { code: error.code, message: error.message, ...(error.fields ? { fields: error.fields } : {}) } }
        : { error: error instanceof Error ? (error.stack ?? error.message) : String(error) }
  }
  parentPort?.postMessage(answer)
})
