/** `npm start` and `npm run demo`: installs and builds what is missing or out of date, then serves. */

import { spawn } from 'node:child_process'
import { build, install } from './prepare.mjs'

install()
build()
const args = ['--enable-source-maps', 'server/dist/main.js', ...process.argv.slice(2)]
const server = spawn(process.execPath, args, { stdio: 'inherit' })
for (const signal of ['SIGINT', 'SIGTERM']) process.on(signal, () => server.kill(signal))
server.on('exit', (code) => process.exit(code ?? 1))
