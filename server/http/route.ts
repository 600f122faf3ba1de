import { type Act, ERRORS, mayDo } from '@conch/contract'
import type { OpenAPIHono } from '@hono/zod-openapi'
import type { Context } from 'hono'
import { getCookie } from 'hono/cookie'
import { z } from 'zod'
import { type Actor, assertMay, readActor } from '../access/actor.ts'
import type { OpenDatabase } from '../database/index.ts'
import { Refusal } from './Refusal.ts'
import { MOST_BODY_BYTES, readBody } from './readBody.ts'

/** What every use case may need; the clock comes in here. */
export interface Services {
  database: OpenDatabase
  now: () => Date
}

export interface Call<Body, Params> {
  body: Body
  params: Params
  actor: Actor
  services: Services
  context: Context
}

interface RouteOf<B extends z.ZodType, P extends z.ZodType, R extends z.ZodType> {
  method: 'get' | 'post' | 'put' | 'delete'
  /** With `{name}` for a parameter. */
  path: string
  summary: string
  /** What the caller must be allowed to do, and how a refusal says it. */
  act: Act
  doing?: string
  params?: P
  body?: B
  mostBodyBytes?: number
  response: R
  status?: 200 | 201
  handle: (call: Call<z.output<B>, z.output<P>>) => Promise<z.input<R>>
}

/** A place of the API that answers with a file instead of JSON. */
interface FileRouteOf<P extends z.ZodType> {
  path: string
  summary: string
  act: Act
  params?: P
  contentType: string
  handle: (call: Omit<Call<undefined, z.output<P>>, 'body'>) => Promise<{ name: string; content: Uint8Array | string }>
}

/** A route without its types, as the app registers it. */
export interface Route {
  register(app: OpenAPIHono, services: Services): void
}

const problemSchema = z
  .object({
    type: z.string(),
    title: z.string(),
    status: z.number().int(),
    detail: z.string(),
    code: z.enum(Object.keys(ERRORS) as [string, ...string[]]),
    fields: z.array(z.object({ field: z.string(), message: z.string() })).optional(),
    current: z.unknown().optional(),
  })
  .describe('RFC 9457 problem document')

/**
 * One place of the API: its permission, its schemas and the use case it calls. Registers itself
 * in the application and in the OpenAPI document. A write is made durable before it is answered.
 */
export function route<
  B extends z.ZodType = z.ZodUndefined,
  P extends z.ZodType = z.ZodUndefined,
  R extends z.ZodType = z.ZodType,
>(r: RouteOf<B, P, R>): Route {
  const isWrite = r.method !== 'get'
  return {
    register(app, services) {
      const json = (schema: z.ZodType) => ({ 'application/json': { schema: schema as never } })
      const problems = { 'application/problem+json': { schema: problemSchema as never } }
      app.openAPIRegistry.registerPath({
        method: r.method,
        path: r.path,
        summary: r.summary,
        request: {
          ...(r.params ? { params: r.params as never } : {}),
          ...(r.body ? { body: { required: true, content: json(r.body) } } : {}),
        },
        responses: {
          [r.status ?? 200]: { description: r.summary, content: json(r.response) },
          '4XX': { description: 'refused; the problem document says why', content: problems },
        },
      })
      app.on(r.method.toUpperCase(), r.path.replace(/\{(\w+)\}/g, ':$1'), async (c) => {
        const actor = actorOf(c, isWrite)
        if (!mayDo(actor.role, r.act)) assertMay(actor, r.act, r.doing ?? r.summary.toLowerCase())
        const params = r.params ? readParams(r.params, c.req.param()) : undefined
        const body = r.body ? await readBody(c, r.body, r.mostBodyBytes ?? MOST_BODY_BYTES) : undefined
        const answer = await r.handle({ body, params, actor, services, context: c } as Call<z.output<B>, z.output<P>>)
        if (isWrite) await services.database.makeDurable()
        return c.json(answer as object, r.status ?? 200)
      })
    },
  }
}

/** A file to look at or keep, made when it is asked for. */
export function fileRoute<P extends z.ZodType = z.ZodUndefined>(r: FileRouteOf<P>): Route {
  return {
    register(app, services) {
      app.openAPIRegistry.registerPath({
        method: 'get',
        path: r.path,
        summary: r.summary,
        request: r.params ? { params: r.params as never } : {},
        responses: {
          200: { description: r.summary, content: { [r.contentType]: { schema: { type: 'string' } as never } } },
          '4XX': {
            description: 'refused; the problem document says why',
            content: { 'application/problem+json': { schema: problemSchema as never } },
          },
        },
      })
      app.get(r.path.replace(/\{(\w+)\}/g, ':$1'), async (c) => {
        const actor = actorOf(c, false)
        if (!mayDo(actor.role, r.act)) assertMay(actor, r.act, r.summary.toLowerCase())
        const params = r.params ? readParams(r.params, c.req.param()) : undefined
        const { name, content } = await r.handle({ params: params as z.output<P>, actor, services, context: c })
        return c.body(content as never, 200, {
          'content-type': r.contentType,
          'content-disposition': `inline; filename="${name}"`,
        })
      })
    },
  }
}

/** Who asks. A cookie counts for reading only: another site could make a browser send it. */
function actorOf(c: Context, isWrite: boolean): Actor {
  return readActor((name) => c.req.header(name), isWrite ? undefined : (name) => getCookie(c, name))
}

/** A parameter that cannot be an id names nothing: that is "not found". */
function readParams(schema: z.ZodType, params: Record<string, string>): unknown {
  const parsed = schema.safeParse(params)
  if (parsed.success) return parsed.data
  throw new Refusal('notFound', `there is nothing called “${Object.values(params).join('/').slice(0, 80)}”`)
}
