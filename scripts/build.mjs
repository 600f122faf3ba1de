/** Builds the pages into web/dist and the server with its tools and threads into server/dist. */

import { run } from './prepare.mjs'

run('npx', ['vite', 'build', '--logLevel', 'warn', '--config', 'web/vite.config.ts'])
// Read only now: on a fresh machine the packages are there after prepare has installed them.
const { buildServer } = await import('./buildServer.mjs')
await buildServer()
