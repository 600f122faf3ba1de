import { jsonSchemas } from '@conch/contract/jsonSchemas'
import { serveStatic } from '@hono/node-server/serve-static'
import { OpenAPIHono } from '@hono/zod-openapi'
import type { Context } from 'hono'
import { compress } from 'hono/compress'
import { secureHeaders } from 'hono/secure-headers'
import type { Logger } from 'pino'
import { auditRoutes } from '../features/audit/routes.ts'
import { drinkRoutes } from '../features/drinks/routes.ts'
import { editionRoutes } from '../features/editions/routes.ts'
import { houseRoutes } from '../features/house/routes.ts'
import { lotRoutes } from '../features/lots/routes.ts'
import { menuRoutes } from '../features/menu/routes.ts'
import { previewRoutes } from '../features/preview/routes.ts'
import { sealedRoutes } from '../features/sealed/routes.ts'
import { tastingRoutes } from '../features/tasting/routes.ts'
import { transferRoutes } from '../features/transfer/routes.ts'
import { trialRoutes } from '../features/trials/routes.ts'
import { onError } from './onError.ts'
import { Refusal } from './Refusal.ts'
import type { Services } from './route.ts'

const ROUTES = [
  ...houseRoutes,
  ...lotRoutes,
  ...tastingRoutes,
  ...sealedRoutes,
  ...trialRoutes,
  ...drinkRoutes,
  ...menuRoutes,
  ...editionRoutes,
  ...previewRoutes,
  ...transferRoutes,
  ...auditRoutes,
]

export interface AppOptions extends Services {
  log: Logger
  /** Where the built pages are; without it only the API is served. */
  webRoot?: string
}

/** The whole application: the API, its description, and the pages. */
export function createApp({ log, webRoot, ...services }: AppOptions): OpenAPIHono {
  const app = new OpenAPIHono()
  app.onError(onError(log))
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
  for (const route of ROUTES) route.register(app, services)
  app.doc31('/api/openapi.json', {
    openapi: '3.1.0',
    info: { title: 'Lazy Conch', version: '1', description: 'Keeps a tropical bar’s drinks the same.' },
  })
  app.get('/api/schemas/drink.json', (c) => c.json(jsonSchemas()['drink.schema.json'] ?? {}))
  app.all('/api/*', (c) => {
    throw new Refusal('notFound', `there is nothing at ${c.req.method} ${c.req.path.slice(0, 200)}`)
  })
  if (webRoot) {
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
  return app
}
