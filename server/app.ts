import { rolesFor } from '@conch/contract'
import { jsonSchemas } from '@conch/contract/jsonSchemas'
import { serveStatic } from '@hono/node-server/serve-static'
import { OpenAPIHono } from '@hono/zod-openapi'
import type { Context } from 'hono'
import { compress } from 'hono/compress'
import { requestId } from 'hono/request-id'
import { secureHeaders } from 'hono/secure-headers'
import type { Logger } from 'pino'
import { readVisitor } from './door/visitor.ts'
import { Refusal } from './errors/Refusal.ts'
import { accessRoutes } from './features/access/routes.ts'
import { auditRoutes } from './features/audit/routes.ts'
import { draftRoutes } from './features/drafts/routes.ts'
import { drinkRoutes } from './features/drinks/routes.ts'
import { editionRoutes } from './features/editions/routes.ts'
import { flightRoutes } from './features/flights/routes.ts'
import { ALIVE, healthRoutes } from './features/health/routes.ts'
import { houseRoutes } from './features/house/routes.ts'
import { liveRoutes } from './features/live/routes.ts'
import { lotRoutes } from './features/lots/routes.ts'
import { menuRoutes } from './features/menu/routes.ts'
import { modelRoutes } from './features/model/routes.ts'
import { peopleRoutes } from './features/people/routes.ts'
import { practiceRoutes } from './features/practice/routes.ts'
import { previewRoutes } from './features/preview/routes.ts'
import { publishedRoutes } from './features/published/routes.ts'
import { roundRoutes } from './features/rounds/routes.ts'
import { sealedRoutes } from './features/sealed/routes.ts'
import { tastingRoutes } from './features/tastings/routes.ts'
import { tonightRoutes } from './features/tonight/routes.ts'
import { transferRoutes } from './features/transfer/routes.ts'
import { trialRoutes } from './features/trials/routes.ts'
import { drained, guardAddress, hostNames, InFlight, requestLog } from './http/guards.ts'
import { onError } from './http/onError.ts'
import { honoPath, type Route, type Services } from './http/route.ts'

/** Every place of the API. */
export const ROUTES: Route[] = [
  ...healthRoutes,
  ...liveRoutes,
  ...accessRoutes,
  ...publishedRoutes,
  ...peopleRoutes,
  ...houseRoutes,
  ...lotRoutes,
  ...flightRoutes,
  ...tastingRoutes,
  ...sealedRoutes,
  ...trialRoutes,
  ...drinkRoutes,
  ...draftRoutes,
  ...menuRoutes,
  ...tonightRoutes,
  ...roundRoutes,
  ...practiceRoutes,
  ...editionRoutes,
  ...modelRoutes,
  ...previewRoutes,
  ...transferRoutes,
  ...auditRoutes,
]

export interface AppOptions extends Services {
  log: Logger
  /** Where the built pages are; without it only the API is served. */
  webRoot?: string
  /** The names under which it may be asked for; left out: those of this machine by itself. */
  hosts?: ReadonlySet<string>
  inFlight?: InFlight
  /** Whether a proxy stands before it, whose word is taken for who asks. */
  trustsProxy?: boolean
}

declare module 'hono' {
  interface ContextVariableMap {
    /** Who asks, by name, for the log. */
    person: string
    log: Logger
  }
}

/** What a browser may do with what it gets. Styles alone stand in pages: charts and toasts set them as they go. */
const HEADERS = secureHeaders({
  contentSecurityPolicy: {
    defaultSrc: ["'self'"],
    scriptSrc: ["'self'"],
    styleSrc: ["'self'", "'unsafe-inline'"],
    imgSrc: ["'self'", 'data:'],
    workerSrc: ["'self'"],
    connectSrc: ["'self'"],
    objectSrc: ["'none'"],
    baseUri: ["'none'"],
    formAction: ["'self'"],
    frameAncestors: ["'none'"],
  },
  xFrameOptions: 'DENY',
  // A house in a cellar may have to go back to an address without it.
  strictTransportSecurity: false,
  referrerPolicy: 'no-referrer',
  permissionsPolicy: { camera: [], microphone: [], geolocation: [], payment: [], serial: ['self'] },
})

/** What is asked without saying who: whether the process lives, and what the API is. Everything else names its act. */
const OPEN = ['/api/alive', '/api/openapi.json', '/api/schemas/drink.json']

/** @throws Error where something is served under /api that names no act: such a house does not start */
function assertEveryPlaceHasAnAct(app: OpenAPIHono): void {
  const known = new Set([...ROUTES.map((r) => honoPath(r.path)), ...OPEN])
  for (const { path, method } of app.routes)
    if (method !== 'ALL' && path.startsWith('/api/') && !known.has(path))
      throw new Error(`bug: ${method} ${path} names no act, so that anybody could ask it`)
  for (const { path, act } of ROUTES) if (rolesFor(act).length === 0) throw new Error(`bug: nobody may ask ${path}`)
}

/** The whole application: the API, its description, and the pages. */
export function createApp({
  log,
  webRoot,
  hosts = hostNames('localhost'),
  inFlight = new InFlight(),
  trustsProxy = false,
  ...services
}: AppOptions): OpenAPIHono {
  const app = new OpenAPIHono()
  app.onError(onError(log))
  app.use(requestId())
  app.use(async (c, next) => {
    c.set('log', log)
    await next()
  })
  app.use(requestLog(log))
  app.use(drained)
  app.use(readVisitor(trustsProxy))
  app.use(HEADERS)
  app.use(guardAddress(hosts))
  app.use(compress())
  app.get('/api/alive', (c) => c.json(ALIVE))
  app.use('/api/*', inFlight.middleware(services.database))
  for (const route of ROUTES) route.register(app, services)
  // Made once: it never changes while this runs.
  let described: string | undefined
  app.get('/api/openapi.json', (c) => {
    described ??= JSON.stringify(
      app.getOpenAPI31Document({
        openapi: '3.1.0',
        info: { title: 'Lazy Conch', version: '1', description: 'Keeps a tropical bar’s drinks the same.' },
      }),
    )
    return c.body(described, 200, { 'content-type': 'application/json' })
  })
  app.get('/api/schemas/drink.json', (c) => c.json(jsonSchemas()['drink.schema.json'] ?? {}))
  app.all('/api/*', (c) => {
    throw new Refusal('notFound', `there is nothing at ${c.req.method} ${c.req.path.slice(0, 200)}`)
  })
  assertEveryPlaceHasAnAct(app)
  if (webRoot) servePages(app, webRoot)
  return app
}

function servePages(app: OpenAPIHono, webRoot: string): void {
  app.use(
    '/assets/*',
    serveStatic({
      root: webRoot,
      onFound: (_path, c) => c.header('cache-control', 'public, max-age=31536000, immutable'),
    }),
  )
  app.all('/assets/*', (c) => c.text('not found', 404))
  // Asked for anew at each visit, so that a new build is seen.
  const onFound = (_path: string, c: Context) => c.header('cache-control', 'no-cache')
  app.use(serveStatic({ root: webRoot, onFound }))
  // Any other address is a place in the application; it finds out itself.
  app.get('*', serveStatic({ root: webRoot, path: 'index.html', onFound }))
}
