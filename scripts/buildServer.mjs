/** The server with its commands and threads, bundled into server/dist as it ships. */

import { join } from 'node:path'
import { build } from 'esbuild'
import { ROOT } from './prepare.mjs'

export async function buildServer() {
  await build({
    // Threads are files of their own: they find each other by name, side by side.
    entryPoints: [
      'server/main.ts',
      'server/restore.ts',
      'server/verify.ts',
      'server/resetManager.ts',
      'server/jobs.worker.ts',
      'server/features/transfer/import.worker.ts',
    ].map((file) => join(ROOT, file)),
    outdir: join(ROOT, 'server/dist'),
    entryNames: '[name]',
    bundle: true,
    platform: 'node',
    target: 'node20',
    format: 'esm',
    sourcemap: true,
    // PGlite finds its WebAssembly beside itself, and the hash its library for this machine; the loggers start worker threads by file; pdfkit and the fonts
    // are read from where they lie.
    external: ['@electric-sql/pglite', '@node-rs/argon2', 'pino', 'pg-native', 'pdfkit', '@fontsource/*'],
    banner: {
      js: "import { createRequire as __createRequire } from 'node:module'; const require = __createRequire(import.meta.url);",
    },
  })
}
