import type { ProblemDocument } from '@conch/contract'
import { readWho } from './who.ts'

/** A refused or failed request, as the server explained it. */
export class ApiError extends Error {
  readonly problem: ProblemDocument | undefined
  constructor(problem: ProblemDocument | undefined, message: string) {
    super(message)
    this.problem = problem
  }
  /** The network or the server is away, rather than the request refused. */
  get isAway(): boolean {
    return this.problem === undefined
  }
}

async function send<T>(method: string, path: string, body?: unknown): Promise<T> {
  const who = readWho()
  const headers: Record<string, string> = { 'conch-role': who.role, 'conch-name': encodeURIComponent(who.name) }
  if (body !== undefined) headers['content-type'] = 'application/json'
  let response: Response
  try {
    response = await fetch(path, { method, headers, ...(body === undefined ? {} : { body: JSON.stringify(body) }) })
  } catch {
    throw new ApiError(undefined, 'The server cannot be reached. What you wrote is kept on this device.')
  }
  const json: unknown = await response.json().catch(() => undefined)
  if (response.ok && json !== undefined) return json as T
  const problem = (json as ProblemDocument | undefined)?.code ? (json as ProblemDocument) : undefined
  throw new ApiError(problem, problem?.detail ?? `The server answered ${response.status} without a reason.`)
}

export const api = {
  get: <T>(path: string) => send<T>('GET', path),
  post: <T>(path: string, body: unknown) => send<T>('POST', path, body),
  put: <T>(path: string, body: unknown) => send<T>('PUT', path, body),
  delete: <T>(path: string) => send<T>('DELETE', path),
}
