/** As much of an error as may stand in a log. */
export interface LoggedError {
  type: string
  message: string
  code?: string
  stack?: string
  cause?: LoggedError
}

/**
 * An error for the log: what and where, without the values that a query was asked with. A formula must not lie in a
 * log file.
 */
export function withoutValues(error: unknown): LoggedError {
  if (!(error instanceof Error)) return { type: typeof error, message: String(error).slice(0, 500) }
  const { code } = error as { code?: unknown }
  const message = cut(error.message)
  return {
    type: error.name,
    message,
    ...(typeof code === 'string' ? { code } : {}),
    ...(error.stack ? { stack: `${message}\n${framesOf(error.stack)}` } : {}),
    ...(error.cause instanceof Error ? { cause: withoutValues(error.cause) } : {}),
  }
}

/** Drizzle writes a query's parameters behind the query. */
const cut = (message: string) => message.split(/\nparams:/)[0]?.slice(0, 2000) ?? ''

const framesOf = (stack: string) =>
  stack
    .split('\n')
    .filter((line) => /^\s+at /.test(line))
    .join('\n')
