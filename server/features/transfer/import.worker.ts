/**
 * Brings a house in beside the one that is served: into a second directory, or on a connection of its own. Whoever is
 * looking at the empty house is not held up.
 */

import { parentPort, workerData } from 'node:worker_threads'
import { openPglite, openPostgres } from '../../database/index.ts'
import { Refusal } from '../../errors/Refusal.ts'
import { bringIn } from './bringIn.ts'
import type { ImportMessage, ImportOrder } from './importJob.ts'

const { file, target } = workerData as ImportOrder
const post = (message: ImportMessage) => parentPort?.postMessage(message)
let isCancelled = false
parentPort?.on('message', () => {
  isCancelled = true
})

try {
  const database = 'url' in target ? await openPostgres(target.url) : await openPglite(target.directory)
  try {
    const came = await bringIn(database, file, {
      now: () => new Date(),
      onProgress: (done, of) => post({ kind: 'progress', done, of }),
      isCancelled: () => isCancelled,
    })
    await database.makeDurable()
    await database.close()
    post({ kind: 'done', came })
  } catch (error) {
    await database.close().catch(() => {})
    throw error
  }
} catch (error) {
  if (error instanceof Refusal) post({ kind: 'refused', problem: error.toProblem() })
  else post({ kind: 'failed', error: error instanceof Error ? (error.stack ?? error.message) : String(error) })
}
parentPort?.unref()
