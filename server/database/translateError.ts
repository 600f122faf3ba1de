import { Refusal } from '../http/Refusal.ts'

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

/** A database error in our words; undefined when it is none that a request can cause. */
export function translateDatabaseError(error: unknown): Refusal | undefined {
  const failure = findFailure(error)
  if (!failure) return undefined
  const options = { cause: error }
  if (failure.code === 'CH001') return new Refusal('immutable', failure.message, options)
  if (failure.code === '23505') {
    return new Refusal('conflict', 'somebody saved at the same moment; load it again and repeat', options)
  }
  if (failure.code === '23503') return new Refusal('invalid', 'it refers to something that is not there', options)
  if (failure.code.startsWith('22')) return new Refusal('invalid', 'a value in it cannot be stored', options)
  if (failure.code === '40001' || failure.code === '40P01') {
    return new Refusal('conflict', 'somebody saved at the same moment; load it again and repeat', options)
  }
  return undefined
}
