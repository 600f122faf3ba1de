import { availableParallelism } from 'node:os'
import { Worker } from 'node:worker_threads'

interface Job {
  data: unknown
  resolve: (value: never) => void
  reject: (reason: unknown) => void
}

export type JobAnswer =
  | { value: unknown }
  | { refused: { code: string; message: string; fields?: unknown } }
  | { error: string }

/** Whether this runs as one built file; else from source. */
const isBuilt = import.meta.url.endsWith('.js')

/** Memory a thread may take before it is ended: its job fails, the house goes on. */
const limits = { maxOldGenerationSizeMb: 1024 }

/**
 * A thread that runs a file of `server/`, by its name without an ending. A thread of Node 20 loads no TypeScript
 * by itself: from source a line of script registers a loader first.
 */
export function startThread(file: string, workerData?: unknown): Worker {
  if (isBuilt)
    return new Worker(new URL(`./${file.split('/').at(-1)}.js`, import.meta.url), {
      workerData,
      resourceLimits: limits,
    })
  const url = new URL(`../${file}.ts`, import.meta.url).href
  return new Worker(`import('tsx/esm/api').then(({ register }) => { register(); return import('${url}') })`, {
    eval: true,
    workerData,
    resourceLimits: limits,
  })
}

/** Threads that take one job after the other; those who come while all are at work wait in line. */
export class Pool {
  private readonly workers = new Map<Worker, Job | undefined>()
  private readonly waiting: Job[] = []
  private isClosed = false
  private readonly file: string
  private readonly size: number

  constructor(file: string, size = Math.max(1, availableParallelism() - 1)) {
    this.file = file
    this.size = size
  }

  run<Out>(data: unknown): Promise<Out> {
    return new Promise((resolve, reject) => {
      this.waiting.push({ data, resolve, reject })
      this.next()
    })
  }

  private start(): Worker {
    const worker = startThread(this.file)
    let reason: unknown = new Error('the thread ended before it answered')
    worker.on('message', (answer: JobAnswer) => {
      const job = this.workers.get(worker)
      this.workers.set(worker, undefined)
      if ('value' in answer) job?.resolve(answer.value as never)
      else job?.reject(answer)
      this.next()
    })
    worker.on('error', (error) => {
      reason = error
    })
    // It exited, or took too much memory: its job fails, the next one gets a new thread.
    worker.on('exit', () => {
      this.workers.get(worker)?.reject(reason)
      this.workers.delete(worker)
      this.next()
    })
    // An idle thread keeps nobody from ending.
    worker.unref()
    return worker
  }

  private next(): void {
    if (this.isClosed) for (const job of this.waiting.splice(0)) job.reject(new Error('the house is closing'))
    while (this.waiting[0]) {
      const idle =
        [...this.workers].find(([, job]) => !job)?.[0] ?? (this.workers.size < this.size ? this.start() : undefined)
      if (!idle) return
      const job = this.waiting.shift()
      this.workers.set(idle, job)
      idle.postMessage(job?.data)
    }
  }

  async close(): Promise<void> {
    this.isClosed = true
    this.next()
    await Promise.all([...this.workers.keys()].map((worker) => worker.terminate()))
  }
}
