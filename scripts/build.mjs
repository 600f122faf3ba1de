/** Builds the pages into web/dist and the server into one file, server/dist/main.js. */

import { join } from 'node:path'
import { ROOT, run } from './prepare.mjs'

run('npx', ['vite', 'build', '--logLevel', 'warn', '--config', 'web/vite.config.ts'])
const { build } = await import('esbuild')
await build({
  entryPoints: [join(ROOT, 'server/main.ts')],
  outfile: join(ROOT, 'server/dist/main.js'),
  bundle: true,
  platform: 'node',
  target: 'node20',
  format: 'esm',
  sourcemap: true,
  // PGlite finds its WebAssembly beside itself; the loggers start worker threads by file; pdfkit and the fonts
  // are read from where they lie.
  external: ['@electric-sql/pglite', 'pino', 'pg-native', 'pdfkit', '@fontsource/*'],
  banner: {
    js: "import { createRequire as __createRequire } from 'node:module'; const require = __createRequire(import.meta.url);",
  },
})
