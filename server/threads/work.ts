import { ERRORS, type ErrorCode, type FieldProblem } from '@conch/contract'
import { Refusal } from '../errors/Refusal.ts'
import type { Job } from './job.ts'
import { Pool } from './pool.ts'

/** Heavy things that one person may have under way at once, and all people together. */
const MOST_PER_PERSON = 2
const MOST_AT_ALL = 16

export interface Work {
  /**
   * Does something heavy in a thread of its own, while everybody else is answered.
   * @param by who wants it: one person cannot take all there is
   * @throws Refusal `busy` when too much is under way; whatever refusal the job came to
   */
  run<In, Out>(by: string, job: Job<In, Out>, data: NoInfer<In>): Promise<Out>
  close(): Promise<void>
}

/** A refusal inside a thread, as one here. */
function toRefusal(answer: unknown): unknown {
  if (answer instanceof Error && 'code' in answer && answer.code === 'ERR_WORKER_OUT_OF_MEMORY')
    return new Refusal('tooLarge', 'it takes more memory than there is for one request; send less', { cause: answer })
  if (typeof answer !== 'object' || answer === null || !('refused' in answer)) {
    const text = typeof answer === 'object' && answer !== null && 'error' in answer ? String(answer.error) : undefined
    return text === undefined ? answer : new Error(text)
  }
  const { code, message, fields } = answer.refused as { code: string; message: string; fields?: FieldProblem[] }
  if (!Object.hasOwn(ERRORS, code)) return new Error(message)
  return new Refusal(code as ErrorCode, message, fields ? { fields } : {})
}

export function createWork(): Work {
  const pool = new Pool('jobs.worker')
  const underWay = new Map<string, number>()
  return {
    async run<In, Out>(by: string, { name }: Job<In, Out>, data: In): Promise<Out> {
      const own = underWay.get(by) ?? 0
      const all = [...underWay.values()].reduce((a, b) => a + b, 0)
      if (own >= MOST_PER_PERSON)
        throw new Refusal('busy', `${by || 'nobody'} has ${own} heavy things under way; wait for one of them`)
      if (all >= MOST_AT_ALL) throw new Refusal('busy', 'too many heavy things are under way; try again in a moment')
      underWay.set(by, own + 1)
      try {
        return await pool.run<Out>({ name, data })
      } catch (error) {
        throw toRefusal(error)
      } finally {
        const left = (underWay.get(by) ?? 1) - 1
        if (left > 0) underWay.set(by, left)
        else underWay.delete(by)
      }
    },
    close: () => pool.close(),
  }
}
