import { randomUUID } from 'node:crypto'
import { rm } from 'node:fs/promises'
import { join } from 'node:path'
import type { ProblemDocument } from '@conch/contract'
import { Refusal } from '../../errors/Refusal.ts'
import type { Services } from '../../http/route.ts'
import { startThread } from '../../threads/index.ts'
import { keepSealed } from '../house/index.ts'
import { type BroughtIn, bringIn } from './bringIn.ts'

export interface ImportOrder {
  file: string
  target: { url: string } | { directory: string }
}
export type ImportMessage =
  | { kind: 'progress'; done: number; of: number }
  | { kind: 'done'; came: BroughtIn }
  | { kind: 'refused'; problem: ProblemDocument }
  | { kind: 'failed'; error: string }

/** How far an import has got. */
export interface ImportState {
  id: string
  state: 'running' | 'done' | 'refused'
  /** Lines read, and how many there are; 0 of 0 before the first. */
  done: number
  of: number
  came?: (BroughtIn & { managers: string[] }) | undefined
  problem?: ProblemDocument | undefined
}

interface Job {
  state: ImportState
  cancel: () => void
}

/** One import at a time; the last one can still be asked for. */
let current: Job | undefined

export const findImport = (id: string): ImportState | undefined =>
  current?.state.id === id ? current.state : undefined

export function cancelImport(id: string): ImportState | undefined {
  if (current?.state.id !== id) return undefined
  current.cancel()
  return current.state
}

/** @throws Refusal while another one runs */
export function assertNoImport(): void {
  if (current?.state.state === 'running') throw new Refusal('busy', 'another house is coming in already; wait for it')
}

/**
 * Begins to bring a house in from a file, which is taken away afterwards.
 * @throws Refusal while another one runs
 */
export function startImport(
  file: string,
  { database, now, held }: Services,
  log: (error: unknown) => void,
): ImportState {
  assertNoImport()
  const state: ImportState = { id: randomUUID(), state: 'running', done: 0, of: 0 }
  let isCancelled = false
  const job: Job = {
    state,
    cancel: () => {
      isCancelled = true
    },
  }
  current = job
  const progress = (done: number, of: number) => Object.assign(state, { done, of })
  const settle = async (work: Promise<BroughtIn>) => {
    try {
      const came = await work
      // It came in by another way than our writes.
      held.forget()
      await keepSealed({ database, held, now })
      const { people } = await held.now()
      const managers = people.filter((p) => p.isActive && p.role === 'manager').map((p) => p.name)
      Object.assign(state, { state: 'done', came: { ...came, managers } })
    } catch (error) {
      const isRefusal = error instanceof Refusal
      if (!isRefusal) log(error)
      const refusal = isRefusal ? error : new Refusal('internal', 'it could not be brought in; the log says why')
      Object.assign(state, { state: 'refused', problem: refusal.toProblem() })
    } finally {
      await rm(file, { force: true })
    }
  }
  const { place } = database
  if (place === undefined)
    void settle(bringIn(database, file, { now, onProgress: progress, isCancelled: () => isCancelled }))
  else void settle(inThread(file, place, job, progress, database.swapIn))
  return state
}

async function inThread(
  file: string,
  place: { url: string } | { directory: string },
  job: Job,
  progress: (done: number, of: number) => void,
  swapIn: ((directory: string) => Promise<void>) | undefined,
): Promise<BroughtIn> {
  const incoming = 'directory' in place ? join(place.directory, 'incoming') : undefined
  if (incoming) await rm(incoming, { recursive: true, force: true })
  const order: ImportOrder = { file, target: incoming ? { directory: incoming } : place }
  const thread = startThread('features/transfer/import.worker', order)
  job.cancel = () => thread.postMessage('cancel')
  try {
    const came = await new Promise<BroughtIn>((resolve, reject) => {
      thread.on('message', (message: ImportMessage) => {
        if (message.kind === 'progress') progress(message.done, message.of)
        else if (message.kind === 'done') resolve(message.came)
        else if (message.kind === 'refused') {
          const { code, detail, fields } = message.problem
          reject(new Refusal(code, detail, fields ? { fields } : {}))
        } else reject(new Error(message.error))
      })
      thread.on('error', reject)
      thread.on('exit', () => reject(new Error('the thread ended before it had brought the house in')))
    })
    if (incoming) await swapIn?.(incoming)
    return came
  } finally {
    await thread.terminate()
    if (incoming) await rm(incoming, { recursive: true, force: true })
  }
}
