/** Builds the pages into web/dist and the server with its tools and threads into server/dist. */

import { join } from 'node:path'
import { ROOT, run } from './prepare.mjs'

run('npx', ['vite', 'build', '--logLevel', 'warn', '--config', 'web/vite.config.ts'])
const { build } = await import('esbuild')
await build({
  // Threads are files of their own: they find each other by name, side by side.
  entryPoints: [
    'server/main.ts',
    'server/restore.ts',
    'server/verify.ts',
    'server/work/jobs.worker.ts',
    'server/features/transfer/import.worker.ts',
  ].map((file) => join(ROOT, file)),
  outdir: join(ROOT, 'server/dist'),
  entryNames: '[name]',
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
