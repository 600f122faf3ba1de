import { jsonSchemas } from '@conch/contract/jsonSchemas'
import { serveStatic } from '@hono/node-server/serve-static'
import { OpenAPIHono } from '@hono/zod-openapi'
import type { Context } from 'hono'
import { compress } from 'hono/compress'
import { requestId } from 'hono/request-id'
import { secureHeaders } from 'hono/secure-headers'
import type { Logger } from 'pino'
import { Refusal } from './errors/Refusal.ts'
import { auditRoutes } from './features/audit/routes.ts'
import { draftRoutes } from './features/drafts/routes.ts'
import { drinkRoutes } from './features/drinks/routes.ts'
import { editionRoutes } from './features/editions/routes.ts'
import { flightRoutes } from './features/flights/routes.ts'
import { ALIVE, healthRoutes } from './features/health/routes.ts'
import { houseRoutes } from './features/house/routes.ts'
import { lotRoutes } from './features/lots/routes.ts'
import { menuRoutes } from './features/menu/routes.ts'
import { modelRoutes } from './features/model/routes.ts'
import { peopleRoutes } from './features/people/routes.ts'
import { previewRoutes } from './features/preview/routes.ts'
import { publishedRoutes } from './features/published/routes.ts'
import { sealedRoutes } from './features/sealed/routes.ts'
import { tastingRoutes } from './features/tastings/routes.ts'
import { transferRoutes } from './features/transfer/routes.ts'
import { trialRoutes } from './features/trials/routes.ts'
import { drained, guardAddress, hostNames, InFlight, requestLog } from './http/guards.ts'
import { onError } from './http/onError.ts'
import type { Route, Services } from './http/route.ts'

/** Every place of the API. */
export const ROUTES: Route[] = [
  ...healthRoutes,
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
}

declare module 'hono' {
  interface ContextVariableMap {
    /** Who asks, by name, for the log. */
    person: string
    log: Logger
  }
}

/** The whole application: the API, its description, and the pages. */
export function createApp({
  log,
  webRoot,
  hosts = hostNames('localhost'),
  inFlight = new InFlight(),
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
  app.use(guardAddress(hosts))
  app.use(compress())
  app.use(
    secureHeaders({
      contentSecurityPolicy: {
        defaultSrc: ["'self'"],
        styleSrc: ["'self'", "'unsafe-inline'"],
        imgSrc: ["'self'", 'data:'],
        workerSrc: ["'self'"],
      },
    }),
  )
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
