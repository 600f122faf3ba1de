import { type Act, ERRORS, mayDo } from '@conch/contract'
import { keysOf } from '@conch/core/schema/keysOf'
import type { OpenAPIHono } from '@hono/zod-openapi'
import type { Context, MiddlewareHandler } from 'hono'
import { every } from 'hono/combine'
import { createMiddleware } from 'hono/factory'
import type { ContentfulStatusCode } from 'hono/utils/http-status'
import { z } from 'zod'
import { type Actor, assertMay, NOBODY } from '../access/actor.ts'
import type { OpenDatabase } from '../database/index.ts'
import { readActor } from '../door/readActor.ts'
import type { Sessions } from '../door/sessions.ts'
import { Refusal } from '../errors/Refusal.ts'
import { answerOnce } from '../events/answerOnce.ts'
import { hashOf } from '../events/hash.ts'
import { inWrite, type Write } from '../events/index.ts'
import type { Feed } from '../feed/index.ts'
import type { Held } from '../held/index.ts'
import type { GlassKeeper, UsualPours } from '../kept/index.ts'
import type { Work } from '../threads/index.ts'
import { answerUnlessSame, etagOf, type Keep, type KeptAnswers, keyOf, stateOf } from './kept.ts'
import { readLate } from './late.ts'
import { check, limitBody, MOST_BODY_BYTES, readBody } from './readBody.ts'

/** What every use case may need; the clock comes in here. */
export interface Services {
  database: OpenDatabase
  now: () => Date
  /** For what is heavy: threads, so many at once and per person. */
  work: Work
  /** The house in memory, as of the last write. */
  held: Held
  /** Answers that are still right. */
  answers: KeptAnswers
  /** What every shown version is at every well. */
  glasses: GlassKeeper
  /** What is usually poured of everything. */
  usual: UsualPours
  /** Tells pages what happens. */
  feed: Feed
  /** Who is signed in. */
  sessions: Sessions
  /** Keeps one who asks from asking too much. */
  rate: MiddlewareHandler<{ Variables: { actor: Actor } }>
}

export interface Call<Body, Params, Query = undefined> {
  body: Body
  params: Params
  query: Query
  actor: Actor
  services: Services
  context: Context
}

interface Place<P extends z.ZodType> {
  /** With `{name}` for a parameter. */
  path: string
  summary: string
  /** What the caller must be allowed to do, and how a refusal says it. */
  act: Act
  doing?: string
  params?: P
}

interface WithBody<B extends z.ZodType, R extends z.ZodType> {
  body?: B
  mostBodyBytes?: number
  response: R
  status?: 200 | 201
}

interface ReadRouteOf<B extends z.ZodType, P extends z.ZodType, R extends z.ZodType, Q extends z.ZodType>
  extends Place<P>,
    WithBody<B, R> {
  /** It tells everybody the same, and asks nothing of the house but its database: nobody is looked up for it. */
  isForAnybody?: true
  /** What stands behind the question mark; anything else is refused. */
  query?: Q
  /** A `post` only where what is asked does not fit an address: nothing is changed. */
  method: 'get' | 'post'
  /** Where the answer is kept as long as it is right; only of a `get`. */
  keep?: Keep<z.output<P>, z.output<Q>>
  handle: (call: Call<z.output<B>, z.output<P>, z.output<Q>>) => Promise<z.input<R>>
}

interface WriteRouteOf<B extends z.ZodType, P extends z.ZodType, R extends z.ZodType, X>
  extends Place<P>,
    WithBody<B, R> {
  method: 'post' | 'put' | 'delete'
  /**
   * Its answer or its body is secret, and it is another one each time: neither is kept for whoever sends it again.
   */
  isSecret?: true
  /** A device that stands alone keeps it and sends it later. */
  mayBeLate?: true
  /** What is slow and changes nothing: before the transaction, which holds up everybody else's writes. */
  prepare?: (call: Call<z.output<B>, z.output<P>>) => Promise<X>
  handle: (call: Call<z.output<B>, z.output<P>> & { write: Write; prepared: X }) => Promise<z.input<R>>
}

/** A place of the API that answers with a file instead of JSON. */
interface FileRouteOf<P extends z.ZodType, Q extends z.ZodType> extends Place<P> {
  contentType: string
  query?: Q
  handle: (
    call: Omit<Call<undefined, z.output<P>, z.output<Q>>, 'body'>,
  ) => Promise<{ name: string; content: Uint8Array | string | ReadableStream<Uint8Array> }>
}

/** A route without its types, as the app registers it. */
export interface Route {
  method: string
  path: string
  act: Act
  /** Whether its answer is kept. */
  isKept?: boolean
  /** What a kept answer depends on. */
  reads?: Keep<never, never>['reads'] | undefined
  /** Whether something is changed by it, and how that is kept: in one transaction, or in its own ones. */
  writes?: 'atOnce' | 'byItself'
  /** Sent again under its key it is done again. */
  isSecret?: boolean
  mayBeLate?: boolean
  register(app: OpenAPIHono, services: Services): void
}

const problemSchema = z
  .object({
    type: z.string(),
    title: z.string(),
    status: z.number().int(),
    detail: z.string(),
    code: z.enum(keysOf(ERRORS)),
    fields: z.array(z.object({ field: z.string(), message: z.string() })).optional(),
    current: z.unknown().optional(),
    waitS: z.number().optional(),
  })
  .describe('RFC 9457 problem document')

/** Puts a place into the OpenAPI document. */
function describePlace(
  app: OpenAPIHono,
  r: Place<z.ZodType> & {
    method: 'get' | 'post' | 'put' | 'delete'
    body?: z.ZodType | undefined
    query?: z.ZodType | undefined
    status?: number
  },
  answer: { type: string; schema: z.ZodType },
): void {
  const content = (type: string, schema: z.ZodType) => ({ [type]: { schema: schema as never } })
  app.openAPIRegistry.registerPath({
    method: r.method,
    path: r.path,
    summary: r.summary,
    request: {
      ...(r.params ? { params: r.params as never } : {}),
      ...(r.query ? { query: r.query as never } : {}),
      ...(r.body ? { body: { required: true, content: content('application/json', r.body) } } : {}),
    },
    responses: {
      [r.status ?? 200]: { description: r.summary, content: content(answer.type, answer.schema) },
      '4XX': {
        description: 'refused; the problem document says why',
        content: content('application/problem+json', problemSchema),
      },
    },
  })
}

export const honoPath = (path: string) => path.replace(/\{(\w+)\}/g, ':$1')

/** Who asks, that they may, and that they do not ask too much: before anything else is read. */
const admission = (r: Place<z.ZodType>, services: Services, isWrite: boolean) =>
  every(
    createMiddleware<{ Variables: { actor: Actor } }>(async (c, next) => {
      c.set('actor', await admit(c, r, services, isWrite))
      await next()
    }),
    services.rate,
  ) as MiddlewareHandler<{ Variables: { actor: Actor } }>

const forAnybody = createMiddleware<{ Variables: { actor: Actor } }>(async (c, next) => {
  c.set('actor', NOBODY)
  await next()
})

/** Coming in and leaving. */
const MAY_WHILE_LOCKED: ReadonlySet<Act> = new Set(['signIn', 'keepOwn'])

async function admit(c: Context, r: Place<z.ZodType>, services: Services, isWrite: boolean): Promise<Actor> {
  const held = await services.held.now()
  const actor = await readActor(c, held, services.sessions, r.act)
  // How far the house was when this was asked: a page that then listens hears of everything behind it.
  if (actor.role !== 'nobody') c.header('conch-at', String(held.at.sequence))
  c.set('person', actor.name || 'nobody')
  if (isWrite && actor.session?.isLocked && !MAY_WHILE_LOCKED.has(r.act))
    throw new Refusal('locked', 'the screen is locked: say who it is, and it goes on')
  if (mayDo(actor.role, r.act)) return actor
  if (actor.role === 'nobody' && !held.base)
    throw new Refusal('notSetUp', 'set up the house first: its name, its ounce and its wells')
  assertMay(actor, r.act, r.doing ?? r.summary.toLowerCase())
  return actor
}

/**
 * One place of the API that is read: its permission, its schemas and the use case it calls. Registers itself
 * in the application and in the OpenAPI document. Whoever has the same answer already is told so.
 */
export function route<
  B extends z.ZodType = z.ZodUndefined,
  P extends z.ZodType = z.ZodUndefined,
  R extends z.ZodType = z.ZodType,
  Q extends z.ZodType = z.ZodUndefined,
>(r: ReadRouteOf<B, P, R, Q>): Route {
  return {
    method: r.method,
    path: r.path,
    act: r.act,
    isKept: r.keep !== undefined,
    reads: r.keep?.reads as Route['reads'],
    register(app, services) {
      describePlace(app, r, { type: 'application/json', schema: r.response })
      const first = r.isForAnybody ? forAnybody : admission(r, services, false)
      const limit = limitBody(r.mostBodyBytes ?? MOST_BODY_BYTES)
      app.on(r.method.toUpperCase(), honoPath(r.path), first, limit, async (c) => {
        const actor = c.get('actor')
        const params = r.params ? readParams(r.params, c.req.param()) : undefined
        const body = r.body ? await readBody(c, r.body) : undefined
        const query = r.query ? check(r.query, c.req.query()) : undefined
        const call = { body, params, query, actor, services, context: c } as Call<z.output<B>, z.output<P>, z.output<Q>>
        if (r.method !== 'get') return c.json((await r.handle(call)) as object, r.status ?? 200)
        if (r.keep) {
          const state = await stateOf(r.keep, call, services)
          return answerUnlessSame(c, await services.answers.get(keyOf(c, actor), state, () => r.handle(call)), actor)
        }
        const text = JSON.stringify(await r.handle(call))
        return answerUnlessSame(c, { text, etag: etagOf(text) }, actor)
      })
    },
  }
}

/**
 * One place of the API that changes something: in one transaction, with its events, and once however often it is
 * sent under one `idempotency-key`. It is durable before it is answered.
 */
export function writeRoute<
  B extends z.ZodType = z.ZodUndefined,
  P extends z.ZodType = z.ZodUndefined,
  R extends z.ZodType = z.ZodType,
  X = undefined,
>(r: WriteRouteOf<B, P, R, X>): Route {
  return {
    method: r.method,
    path: r.path,
    act: r.act,
    writes: 'atOnce',
    isSecret: r.isSecret === true,
    mayBeLate: r.mayBeLate === true,
    register(app, services) {
      describePlace(app, r, { type: 'application/json', schema: r.response })
      const limit = limitBody(r.mostBodyBytes ?? MOST_BODY_BYTES)
      app.on(r.method.toUpperCase(), honoPath(r.path), admission(r, services, true), limit, async (c) => {
        const actor = c.get('actor')
        const params = r.params ? readParams(r.params, c.req.param()) : undefined
        const body = r.body ? await readBody(c, r.body) : undefined
        const key = c.req.header('idempotency-key')
        const { database, now } = services
        const call = { body, params, actor, services, context: c } as Call<z.output<B>, z.output<P>>
        const late = r.mayBeLate ? readLate(c, now()) : undefined
        const prepared = (await r.prepare?.(call)) as X
        const { status, answer } = await inWrite(database, { actor, now, late }, async (write) => {
          const work = async () => ({
            status: r.status ?? 200,
            answer: await r.handle({ ...call, write, prepared }),
          })
          if (key === undefined || r.isSecret) return work()
          const request = hashOf({ who: actor.id ?? null, how: r.method, where: c.req.path, what: body ?? null })
          return answerOnce(write.db, { key, request, at: now() }, work)
        })
        await database.makeDurable()
        c.header('cache-control', 'no-store')
        return c.json(answer as object, status as ContentfulStatusCode)
      })
    },
  }
}

interface UploadRouteOf<P extends z.ZodType, R extends z.ZodType> extends Place<P> {
  response: R
  status: 200 | 202
  handle: (call: Omit<Call<undefined, z.output<P>>, 'body' | 'query'>) => Promise<z.input<R>>
}

/** A place that takes a file as it comes and goes on by itself afterwards: it keeps its own transactions. */
export function uploadRoute<P extends z.ZodType = z.ZodUndefined, R extends z.ZodType = z.ZodType>(
  r: UploadRouteOf<P, R>,
): Route {
  return {
    method: 'post',
    path: r.path,
    act: r.act,
    writes: 'byItself',
    register(app, services) {
      describePlace(app, { ...r, method: 'post' }, { type: 'application/json', schema: r.response })
      app.post(honoPath(r.path), admission(r, services, true), async (c) => {
        const actor = c.get('actor')
        const params = r.params ? readParams(r.params, c.req.param()) : undefined
        const answer = await r.handle({ params: params as z.output<P>, actor, services, context: c })
        return c.json(answer as object, r.status)
      })
    },
  }
}

/** A file to look at or keep, made when it is asked for. */
export function fileRoute<P extends z.ZodType = z.ZodUndefined, Q extends z.ZodType = z.ZodUndefined>(
  r: FileRouteOf<P, Q>,
): Route {
  return {
    method: 'get',
    path: r.path,
    act: r.act,
    register(app, services) {
      describePlace(app, { ...r, method: 'get' }, { type: r.contentType, schema: z.string() })
      app.get(honoPath(r.path), admission(r, services, false), async (c) => {
        const actor = c.get('actor')
        const params = r.params ? readParams(r.params, c.req.param()) : undefined
        const query = (r.query ? check(r.query, c.req.query()) : undefined) as z.output<Q>
        const { name, content } = await r.handle({
          params: params as z.output<P>,
          query,
          actor,
          services,
          context: c,
        })
        return c.body(content as never, 200, {
          'content-type': r.contentType,
          'content-disposition': `inline; filename="${name}"`,
          'cache-control': 'private, no-store',
        })
      })
    },
  }
}

export type StreamCall<Q> = Omit<Call<undefined, undefined, Q>, 'body' | 'params'>

interface StreamRouteOf<R extends z.ZodType, Q extends z.ZodType> extends Place<z.ZodUndefined> {
  query: Q
  response: R
  handle: (call: StreamCall<z.output<Q>>) => Promise<z.input<R>>
  stream: (call: StreamCall<z.output<Q>>) => Response
}

/** A place that goes on answering for whoever accepts a stream of events, and answers once for whoever does not. */
export function streamRoute<R extends z.ZodType, Q extends z.ZodType>(r: StreamRouteOf<R, Q>): Route {
  return {
    method: 'get',
    path: r.path,
    act: r.act,
    register(app, services) {
      describePlace(app, { ...r, method: 'get' }, { type: 'application/json', schema: r.response })
      app.get(honoPath(r.path), admission(r, services, false), async (c) => {
        const call = { query: check(r.query, c.req.query()), actor: c.get('actor'), services, context: c }
        if (/\btext\/event-stream\b/.test(c.req.header('accept') ?? '')) {
          // What stands between must neither keep it back nor keep it.
          c.header('x-accel-buffering', 'no')
          c.header('cache-control', 'private, no-store')
          return r.stream(call)
        }
        c.header('cache-control', 'private, no-store')
        return c.json((await r.handle(call)) as object)
      })
    },
  }
}

/** A parameter that cannot be an id names nothing: that is "not found". */
function readParams(schema: z.ZodType, params: Record<string, string>): unknown {
  const parsed = schema.safeParse(params)
  if (parsed.success) return parsed.data
  throw new Refusal('notFound', `there is nothing called “${Object.values(params).join('/').slice(0, 80)}”`)
}
