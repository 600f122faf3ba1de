import { ERRORS, type ProblemDocument } from '@conch/contract'
import type { z } from 'zod'
import { forgetWho, lockWho, readWho } from './who.ts'

/** A refused or failed request, as the server explained it. */
export class ApiError extends Error {
  readonly problem: ProblemDocument | undefined
  /** The answer came, and says something that this page does not understand. */
  readonly isStrange: boolean
  constructor(problem: ProblemDocument | undefined, message: string, isStrange = false) {
    super(message)
    this.problem = problem
    this.isStrange = isStrange
  }
  /** The network or the server is away, or has too much to do, rather than the request refused. */
  get isAway(): boolean {
    return (this.problem === undefined && !this.isStrange) || this.problem?.status === 503
  }
}

/** How often a write is sent again by itself when no answer came: under its key it is done once. */
const TRIES = 2
const AGAIN_AFTER_MS = 500

/** Random, and in every browser: `randomUUID` is not there without a secure address. */
function newKey(): string {
  return [...crypto.getRandomValues(new Uint8Array(16))].map((b) => b.toString(16).padStart(2, '0')).join('')
}

/**
 * The keys of writes that have no definite answer yet, by what they say: sent again, they go under the same key, so
 * that a lost answer makes nothing twice.
 */
const keys = new Map<string, string>()
/** Writes on their way: a double tap waits for the first. */
const underWay = new Map<string, Promise<unknown>>()

/** Told of every write that was done. */
const listeners = new Set<() => void>()
export function onWrite(listener: () => void): void {
  listeners.add(listener)
}

function problemIn(json: unknown): ProblemDocument | undefined {
  if (typeof json !== 'object' || json === null || !('code' in json) || !('detail' in json)) return undefined
  return typeof json.code === 'string' && Object.hasOwn(ERRORS, json.code) ? (json as ProblemDocument) : undefined
}

async function ask(method: string, path: string, init: RequestInit): Promise<Response> {
  try {
    return await fetch(path, { method, ...init })
  } catch {
    throw new ApiError(undefined, 'The server cannot be reached. What you wrote is kept on this device.')
  }
}

let firstAt: number | undefined

/** How far the house was when this page asked it for the first time; undefined: it has not answered yet. */
export const firstSequence = (): number | undefined => firstAt

async function send<T>(schema: z.ZodType<T>, method: string, path: string, init: RequestInit): Promise<T> {
  const who = readWho()
  const headers = new Headers(init.headers)
  if (who) headers.set('conch-person', String(who.id))
  const response = await ask(method, path, { ...init, headers })
  const at = response.headers.get('conch-at')
  if (at !== null && response.ok) firstAt ??= Number(at)
  const json: unknown = await response.json().catch(() => undefined)
  const problem = problemIn(json)
  if (!response.ok) {
    // Signed out, here or by somebody elsewhere: whoever is here now says who they are.
    if (problem?.code === 'nobody' && who && who.id === readWho()?.id) forgetWho()
    if (problem?.code === 'locked') lockWho()
    throw new ApiError(
      problem,
      problem?.detail ?? `The server answered ${response.status} without a reason.`,
      response.status < 500,
    )
  }
  const parsed = schema.safeParse(json)
  if (parsed.success) return parsed.data
  const [issue] = parsed.error.issues
  const where = issue?.path.join('.') || 'the answer'
  throw new ApiError(
    undefined,
    `The server answered something that this page does not understand (${where}: ${issue?.message}). Load the page again; it may be older than the house.`,
    true,
  )
}

/** Coming in and leaving; everything else waits until somebody has said who they are. */
const MAY_WHILE_LOCKED: ReadonlySet<string> = new Set(['/api/sign-in', '/api/sign-out', '/api/lock'])
const LOCKED: ProblemDocument = {
  type: 'urn:lazy-conch:problem:locked',
  ...ERRORS.locked,
  code: 'locked',
  detail: 'The screen is locked: say who you are, and it goes on.',
}

async function write<T>(schema: z.ZodType<T>, method: string, path: string, body?: unknown): Promise<T> {
  if (readWho()?.isLocked && !MAY_WHILE_LOCKED.has(path)) throw new ApiError(LOCKED, LOCKED.detail)
  const text = body === undefined ? undefined : JSON.stringify(body)
  const said = `${readWho()?.id} ${method} ${path} ${text}`
  const before = underWay.get(said)
  if (before) return before as Promise<T>
  const key = keys.get(said) ?? newKey()
  keys.set(said, key)
  const headers = {
    'idempotency-key': key,
    ...(text === undefined ? {} : { 'content-type': 'application/json' }),
  }
  const attempt = async (left: number): Promise<T> => {
    try {
      const answer = await send(schema, method, path, { headers, ...(text === undefined ? {} : { body: text }) })
      keys.delete(said)
      for (const listener of listeners) listener()
      return answer
    } catch (error) {
      const isAway = error instanceof ApiError && error.isAway
      // Refused is refused; what is done next is another thing.
      if (!isAway) keys.delete(said)
      if (!isAway || left === 0) throw error
      await new Promise((resolve) => setTimeout(resolve, AGAIN_AFTER_MS))
      return attempt(left - 1)
    }
  }
  const mine = attempt(TRIES - 1).finally(() => underWay.delete(said))
  underWay.set(said, mine)
  return mine
}

/** The server's API: every answer is parsed by its schema, every write is done once. */
export const api = {
  get: <T>(path: string, schema: z.ZodType<T>) => send(schema, 'GET', path, {}),
  post: <T>(path: string, schema: z.ZodType<T>, body: unknown) => write(schema, 'POST', path, body),
  put: <T>(path: string, schema: z.ZodType<T>, body: unknown) => write(schema, 'PUT', path, body),
  delete: <T>(path: string, schema: z.ZodType<T>) => write(schema, 'DELETE', path),
  /** Says something that changes nothing: nobody waits for it, and nothing is asked for again. */
  say: <T>(path: string, schema: z.ZodType<T>, body: unknown) =>
    send(schema, 'POST', path, { headers: { 'content-type': 'application/json' }, body: JSON.stringify(body) }),
  /** Sends a file as it is, however large. */
  upload: <T>(path: string, schema: z.ZodType<T>, file: Blob) =>
    send(schema, 'POST', path, { body: file, headers: { 'content-type': file.type || 'application/octet-stream' } }),
}
