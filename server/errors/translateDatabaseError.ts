import { NotReady } from '../database/index.ts'
import { Refusal } from './Refusal.ts'

interface DatabaseFailure {
  code: string
  constraint?: string
  message: string
}

/** The database's own error inside what Drizzle throws, or undefined. */
function findFailure(error: unknown): DatabaseFailure | undefined {
  for (let e = error; e instanceof Error; e = e.cause) {
    const { code } = e as { code?: unknown }
    if (typeof code === 'string' && /^[0-9A-Z]{5}$/.test(code)) return e as unknown as DatabaseFailure
  }
  return undefined
}

/** What a broken connection says, in whatever words it comes. */
const IS_AWAY =
  /ECONNREFUSED|ECONNRESET|EPIPE|ENOENT|ETIMEDOUT|Connection terminated|connection timeout|timeout exceeded when trying to connect|PGlite is closed|Client has encountered a connection error/i

function isAway(error: unknown): boolean {
  for (let e = error; e instanceof Error; e = e.cause) {
    const { code } = e as { code?: unknown }
    if (IS_AWAY.test(`${typeof code === 'string' ? code : ''} ${e.message}`)) return true
    // Shut down, starting up, or asked to stop by its administrator.
    if (typeof code === 'string' && /^(57P0[1-4]|08\w{3})$/.test(code)) return true
  }
  return false
}

/** What a rule of the database says, in our words. */
const CONSTRAINTS: Record<string, string> = {
  lots_use_by_not_before_made: 'useBy: is before the day it was made',
  house_is_one: 'there is one house in a database',
  menu_plan_is_one: 'there is one plan in a house',
}

/** A database error in our words; undefined when it is none that a request can cause. */
export function translateDatabaseError(error: unknown): Refusal | undefined {
  const options = { cause: error }
  if (error instanceof NotReady) return new Refusal('notReady', error.message, options)
  if (isAway(error))
    return new Refusal(
      'notReady',
      'the database does not answer just now; nothing was saved, try again in a moment',
      options,
    )
  const failure = findFailure(error)
  if (!failure) return undefined
  if (failure.code === 'CH001') return new Refusal('immutable', failure.message, options)
  if (failure.code === '23505' || failure.code === '40001' || failure.code === '40P01')
    return new Refusal('conflict', 'somebody saved at the same moment; load it again and repeat', options)
  if (failure.code === '23503') return new Refusal('invalid', 'it refers to something that is not there', options)
  if (failure.code === '23514' || failure.code === '23502') {
    const words = CONSTRAINTS[failure.constraint ?? '']
    return new Refusal('invalid', words ?? 'a value in it is not one that can be stored', options)
  }
  if (failure.code.startsWith('22') || failure.code === '54000' || failure.code === '54001')
    return new Refusal('invalid', 'a value in it cannot be stored', options)
  return undefined
}
