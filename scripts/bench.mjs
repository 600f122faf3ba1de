/** `npm run bench`: installs, builds, and measures. */

import { build, install, run } from './prepare.mjs'

install()
build()
run('npx', ['tsx', 'bench/bench.ts'])
