/** What is heavy and needs no database: runs in a thread of its own. */

import { parentPort } from 'node:worker_threads'
import { Refusal } from './errors/Refusal.ts'
import { computeLock, LOCK } from './features/editions/lockPlan.ts'
import { BOTTLE_ROWS, readBottleRows } from './features/house/readBottleRows.ts'
import { drawLabels } from './features/lots/drawLabels.ts'
import { LABELS } from './features/lots/labelsJob.ts'
import { computeMoved, MOVED } from './features/model/computeMoved.ts'
import { countWays, WAYS } from './features/sealed/countWays.ts'
import { CALIBRATE, calibrate } from './features/trials/calibrate.ts'
import { computeGlasses, KEPT_GLASSES } from './kept/computeGlasses.ts'
import { doing, type JobAnswer } from './threads/index.ts'

const jobs = new Map<string, (data: never) => unknown>([
  doing(LABELS, drawLabels),
  doing(BOTTLE_ROWS, readBottleRows),
  doing(KEPT_GLASSES, computeGlasses),
  doing(CALIBRATE, calibrate),
  doing(MOVED, computeMoved),
  doing(LOCK, computeLock),
  doing(WAYS, countWays),
])

parentPort?.on('message', async ({ name, data }: { name: string; data: never }) => {
  let answer: JobAnswer
  try {
    const job = jobs.get(name)
    if (!job) throw new Error(`bug: nobody does the job “${name}”`)
    answer = { value: await job(data) }
  } catch (error) {
    answer =
      error instanceof Refusal
        ? { refused: { code: error.code, message: error.message, ...(error.fields ? { fields: error.fields } : {}) } }
        : { error: error instanceof Error ? (error.stack ?? error.message) : String(error) }
  }
  parentPort?.postMessage(answer)
})
