import {
  AUDIENCES_OF_ROLE,
  type Audience,
  audienceOf,
  ERRORS,
  type ProblemDocument,
  SAID_AGO,
  SEES,
} from '@conch/contract'
import type { z } from 'zod'
import { untilSaved } from './leaving.ts'
import { doubtLine, lineNow, onLine } from './line.ts'
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
export function newKey(): string {
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

const away = (method: string) =>
  new ApiError(
    undefined,
    method === 'GET'
      ? 'The house is not heard, and this is not kept on this device. It comes when the house is heard again.'
      : 'The house is not heard: this was not done. Drafts and what you tap for the night are kept; do this again when it is back.',
  )

async function ask(method: string, path: string, init: RequestInit): Promise<Response> {
  try {
    return await fetch(path, { method, ...init })
  } catch {
    doubtLine()
    throw away(method)
  }
}

let whenNobody: () => unknown = forgetWho
/** Says what is done when the house knows nobody here, or somebody else: once, when the page begins. */
export const setWhenNobody = (look: () => unknown): void => {
  whenNobody = look
}

let firstAt: number | undefined

/** How far the house was when this page asked it for the first time; undefined: it has not answered yet. */
export const firstSequence = (): number | undefined => firstAt

/** How far the house was at the last answer to each address. */
const sequences = new Map<string, number>()
export const sequenceOf = (path: string): number | undefined => sequences.get(path)

/** What is asked while the house takes the screen for open that is not: how one comes in, and whether it is there. */
const MAY_WHILE_UNTOLD: ReadonlySet<string> = new Set(['/api/ready', '/api/sign-in', '/api/lock', '/api/feed'])
const placeOf = (path: string) => path.split('?')[0] ?? ''
const KEY_HEADER = 'idempotency-key'

async function send<T>(
  schema: z.ZodType<T>,
  method: string,
  path: string,
  init: RequestInit,
  onAnswer?: (answer: unknown, sequence: number | null) => void,
): Promise<T> {
  const who = readWho()
  const headers = new Headers(init.headers)
  const isOfTap = headers.has(SAID_AGO)
  if (who?.isUntold && !isOfTap && !MAY_WHILE_UNTOLD.has(placeOf(path))) throw away(method)
  if (who) headers.set('conch-person', String(who.session ?? who.id))
  const response = await ask(method, path, { ...init, headers })
  const at = response.headers.get('conch-at')
  if (at !== null && response.ok) firstAt ??= Number(at)
  const json: unknown = await response.json().catch(() => undefined)
  const problem = problemIn(json)
  if (!response.ok) {
    // Signed out, here or by somebody elsewhere; or somebody else is signing in just now.
    if (problem?.code === 'nobody' && who && who.id === readWho()?.id) void whenNobody()
    if (problem?.code === 'locked') lockWho({ isTold: true })
    throw new ApiError(
      problem,
      problem?.detail ?? `The server answered ${response.status} without a reason.`,
      response.status < 500,
    )
  }
  const parsed = schema.safeParse(json)
  if (parsed.success) {
    if (method === 'GET' && at !== null) sequences.set(path, Number(at))
    onAnswer?.(json, at === null ? null : Number(at))
    return parsed.data
  }
  const [issue] = parsed.error.issues
  const where = issue?.path.join('.') || 'the answer'
  throw new ApiError(
    undefined,
    `The server answered something that this page does not understand (${where}: ${issue?.message}). Load the page again; it may be older than the house.`,
    true,
  )
}

/** For so long one waits for the house before what is kept is shown, by how it is heard. */
const WAIT_MS = { unknown: 4_000, alone: 1_500 } as const
/** What is heard and does not answer has much to do, or is not heard any more: then it is looked. */
const DOUBT_MS = 8_000

/** Resolves when one has waited long enough; where the house is heard, when it is not any more. */
function untilTired(signal: AbortSignal): Promise<undefined> {
  return new Promise((resolve) => {
    const line = lineNow()
    const end = () => resolve(undefined)
    const timer = line === 'live' ? setTimeout(doubtLine, DOUBT_MS) : setTimeout(end, WAIT_MS[line])
    const endLine = onLine(() => lineNow() === 'alone' && end())
    signal.addEventListener('abort', () => {
      clearTimeout(timer)
      endLine()
      end()
    })
  })
}

/** For whom an answer is kept here: managers read what is sealed, and nothing of it stays on a device. */
function audienceHere(path: string): Audience | undefined {
  const audience = audienceOf(path)
  if (audience === undefined || audience === 'anybody') return audience
  const who = readWho()
  return who && AUDIENCES_OF_ROLE[who.role].includes(audience) ? audience : undefined
}

/** When this page wrote what, by address. */
const written = new Map<string, number>()
const noteWritten = (path: string) => void written.set(path, Date.now())

/** Whether this page wrote something of it since that was kept: what the page has in memory is newer. */
function isOvertaken(address: string, at: number): boolean {
  const path = placeOf(address)
  return [...written].some(
    ([to, when]) => when >= at && (to === path || to.startsWith(`${path}/`) || path.startsWith(`${to}/`)),
  )
}

let isKeptShown = false
/** Whether something was shown that this device had kept, since this was asked last. */
export function takeKeptShown(): boolean {
  const was = isKeptShown
  isKeptShown = false
  return was
}

/** Asks the house; where it is not heard, what it answered last on this device is the answer. */
async function get<T>(path: string, schema: z.ZodType<T>): Promise<T> {
  const audience = audienceHere(path)
  if (audience === undefined) return send(schema, 'GET', path, {})
  const keeping = import('../keeping/answers.ts')
  const who = readWho()
  const fresh = send(schema, 'GET', path, {}, (answer, sequence) => {
    // While whoever asked is still here: what was answered to them is kept for their like.
    const isStill = () => readWho()?.id === who?.id && readWho()?.role === who?.role
    keeping.then((k) => k.keepAnswer({ path, audience, answer, sequence, at: Date.now() }, isStill)).catch(() => {})
  })
  const kept = async (): Promise<{ is: T } | undefined> => {
    const found = await keeping.then((k) => k.findAnswer(path, audience)).catch(() => undefined)
    if (!found || isOvertaken(path, found.at)) return undefined
    const parsed = schema.safeParse(found.answer)
    if (!parsed.success) return undefined
    if (found.sequence !== null) sequences.set(path, found.sequence)
    isKeptShown = true
    return { is: parsed.data }
  }
  const waiting = new AbortController()
  const first = await Promise.race([
    fresh.then(
      (is) => ({ is }),
      (error: unknown) => ({ error }),
    ),
    untilTired(waiting.signal),
  ])
  waiting.abort()
  if (first && 'is' in first) return first.is
  if (first && !(first.error instanceof ApiError && first.error.isAway)) throw first.error
  const found = await kept()
  if (!found) return fresh
  fresh.catch(() => {})
  return found.is
}

/** Coming in and leaving; everything else waits until somebody has said who they are. */
const MAY_WHILE_LOCKED: ReadonlySet<string> = new Set(['/api/sign-in', '/api/sign-out', '/api/lock'])
const LOCKED: ProblemDocument = {
  type: 'urn:lazy-conch:problem:locked',
  ...ERRORS.locked,
  code: 'locked',
  detail: 'The screen is locked: say who you are, and it goes on.',
}

const UNCONFIRMED: ProblemDocument = {
  ...LOCKED,
  detail: 'Nobody could look yet whether it is you: say your PIN when the house is heard, and it goes on.',
}

/** @throws ApiError where whoever is here has to say first who they are */
export function assertMayWrite(path: string): void {
  const who = readWho()
  const problem = who?.isLocked ? LOCKED : who?.isUnconfirmed ? UNCONFIRMED : undefined
  if (problem && !MAY_WHILE_LOCKED.has(path)) throw new ApiError(problem, problem.detail)
}

async function write<T>(schema: z.ZodType<T>, method: string, path: string, body?: unknown): Promise<T> {
  assertMayWrite(path)
  const text = body === undefined ? undefined : JSON.stringify(body)
  const said = `${readWho()?.id} ${method} ${path} ${text}`
  const before = underWay.get(said)
  if (before) return before as Promise<T>
  const key = keys.get(said) ?? newKey()
  keys.set(said, key)
  const headers = {
    [KEY_HEADER]: key,
    ...(text === undefined ? {} : { 'content-type': 'application/json' }),
  }
  const attempt = async (left: number): Promise<T> => {
    try {
      const answer = await send(schema, method, path, { headers, ...(text === undefined ? {} : { body: text }) })
      keys.delete(said)
      noteWritten(path)
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
  const mine = untilSaved(attempt(TRIES - 1).finally(() => underWay.delete(said)))
  underWay.set(said, mine)
  return mine
}

/** A line that is cut in the middle answers never: what was said behind it is not kept back by that. */
const TAP_MS = 20_000

/** The server's API: every answer is parsed by its schema, every write is done once. */
export const api = {
  get,
  post: <T>(path: string, schema: z.ZodType<T>, body: unknown) => write(schema, 'POST', path, body),
  put: <T>(path: string, schema: z.ZodType<T>, body: unknown) => write(schema, 'PUT', path, body),
  delete: <T>(path: string, schema: z.ZodType<T>) => write(schema, 'DELETE', path),
  /**
   * Sends once what was said before: under its own key, with how long ago it was.
   * @param sees how far the house was for whoever said it
   */
  sendTap: async <T>(
    schema: z.ZodType<T>,
    path: string,
    { id, body, agoS, sees }: { id: string; body: unknown; agoS: number; sees: number | null },
  ): Promise<T> => {
    const headers = {
      'content-type': 'application/json',
      [KEY_HEADER]: id,
      [SAID_AGO]: String(agoS),
      ...(sees === null ? {} : { [SEES]: String(sees) }),
    }
    const signal = AbortSignal.timeout(TAP_MS)
    const answer = await send(schema, 'POST', path, { headers, body: JSON.stringify(body), signal })
    noteWritten(path)
    for (const listener of listeners) listener()
    return answer
  },
  /** Says something that changes nothing: nobody waits for it, and nothing is asked for again. */
  say: <T>(path: string, schema: z.ZodType<T>, body: unknown) =>
    send(schema, 'POST', path, { headers: { 'content-type': 'application/json' }, body: JSON.stringify(body) }),
  /** Sends a file as it is, however large. */
  upload: <T>(path: string, schema: z.ZodType<T>, file: Blob) =>
    send(schema, 'POST', path, { body: file, headers: { 'content-type': file.type || 'application/octet-stream' } }),
}
