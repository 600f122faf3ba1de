/** `npm run bench`: installs, builds, and measures the code as it ships: bundled. */

import { join } from 'node:path'
import { build, install, ROOT, run } from './prepare.mjs'

install()
build()
const esbuild = await import('esbuild')
// Beside the server's own bundle: migrations and demo are found from there.
const outfile = join(ROOT, 'server/dist/bench.mjs')
await esbuild.build({
  entryPoints: [join(ROOT, 'bench/bench.ts')],
  outfile,
  bundle: true,
  platform: 'node',
  target: 'node20',
  format: 'esm',
  packages: 'external',
  alias: { '@conch/core': join(ROOT, 'core'), '@conch/contract': join(ROOT, 'contract') },
})
run(process.execPath, [outfile, ...process.argv.slice(2)])
