/** The server restarts on change, the pages reload; both at http://localhost:5173. */

import { spawn } from 'node:child_process'
import { install } from './prepare.mjs'

install()
const start = (args) => spawn('npx', args, { stdio: 'inherit' })
const children = [
  start(['tsx', 'watch', 'server/main.ts', '--demo']),
  start(['vite', '--config', 'web/vite.config.ts']),
]
process.on('SIGINT', () => {
  for (const child of children) child.kill('SIGINT')
})
