import { ERRORS } from '@conch/contract'
import type { Context } from 'hono'
import type { Logger } from 'pino'
import { Refusal } from '../errors/Refusal.ts'
import { translateDatabaseError } from '../errors/translateDatabaseError.ts'
import { withoutValues } from '../errors/withoutValues.ts'

/** The one exit for errors: ours as they are, the database's in our words, all others logged whole. */
export function onError(log: Logger) {
  return (error: unknown, c: Context) => {
    const refusal = error instanceof Refusal ? error : translateDatabaseError(error)
    if (!refusal) log.error({ err: withoutValues(error), path: c.req.path, id: c.get('requestId') }, 'a request failed')
    const answer = refusal ?? new Refusal('internal', 'this should not have happened; it was written to the log')
    const { status } = ERRORS[answer.code]
    return c.body(JSON.stringify(answer.toProblem()), status, {
      'content-type': 'application/problem+json',
      ...(status === 503 ? { 'retry-after': '2' } : {}),
      ...(answer.waitS === undefined ? {} : { 'retry-after': String(Math.ceil(answer.waitS)) }),
      'cache-control': 'no-store',
    })
  }
}
