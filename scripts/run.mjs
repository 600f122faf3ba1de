/**
 * `npm start`, `npm run demo`, `npm run restore`, `npm run verify` and `npm run reset-manager`: installs and builds what is missing or out of
 * date, then runs.
 */

import { spawn } from 'node:child_process'
import { build, install } from './prepare.mjs'

install()
build()
const [first, ...rest] = process.argv.slice(2)
const isTool = ['restore', 'verify', 'resetManager'].includes(first)
const file = `server/dist/${isTool ? first : 'main'}.js`
const args = ['--enable-source-maps', file, ...(isTool ? rest : process.argv.slice(2))]
const child = spawn(process.execPath, args, { stdio: 'inherit' })
for (const signal of ['SIGINT', 'SIGTERM']) process.on(signal, () => child.kill(signal))
child.on('exit', (code) => process.exit(code ?? 1))
