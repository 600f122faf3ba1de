/** Set-up that every command needs, done only when something has changed since the last time. */

import { execFileSync } from 'node:child_process'
import { createHash } from 'node:crypto'
import { existsSync, mkdirSync, readdirSync, readFileSync, statSync, writeFileSync } from 'node:fs'
import { dirname, join } from 'node:path'
import { fileURLToPath } from 'node:url'

export const ROOT = dirname(dirname(fileURLToPath(import.meta.url)))
const STAMPS = join(ROOT, 'node_modules/.conch')

export function run(command, args, options = {}) {
  execFileSync(command, args, { cwd: ROOT, stdio: 'inherit', ...options })
}

/** Does the work when the stamp is not this one, and stamps it then. */
function once(name, stamp, work) {
  const path = join(STAMPS, name)
  if (existsSync(path) && readFileSync(path, 'utf8') === stamp) return
  work()
  mkdirSync(STAMPS, { recursive: true })
  writeFileSync(path, stamp)
}

const hash = (text) => createHash('sha256').update(text).digest('hex')

/** The packages of package-lock.json. */
export function install() {
  once('install', hash(readFileSync(join(ROOT, 'package-lock.json'))), () =>
    run('npm', ['ci', '--no-audit', '--no-fund']),
  )
}

/** Names, sizes and times of every source file below these folders. */
function fingerprint(folders) {
  const lines = []
  const walk = (folder) => {
    for (const entry of readdirSync(folder, { withFileTypes: true })) {
      const path = join(folder, entry.name)
      if (entry.isDirectory()) {
        if (!['node_modules', 'dist'].includes(entry.name)) walk(path)
      } else {
        const { size, mtimeMs } = statSync(path)
        lines.push(`${path} ${size} ${mtimeMs}`)
      }
    }
  }
  for (const folder of folders) walk(join(ROOT, folder))
  return hash(lines.join('\n') + readFileSync(join(ROOT, 'package-lock.json')))
}

/** The pages and the server, ready to serve. */
export function build() {
  once('build', fingerprint(['core', 'contract', 'server', 'web', 'scripts']), () =>
    run(process.execPath, ['scripts/build.mjs']),
  )
}

/** Debian packages, where the named file of one is not there yet. Needs root. */
export function installDebian(packages) {
  const missing = Object.entries(packages)
    .filter(([, isThere]) => !isThere())
    .map(([name]) => name)
  if (missing.length === 0) return
  const env = { ...process.env, DEBIAN_FRONTEND: 'noninteractive' }
  run('apt-get', ['update', '-q'], { env })
  run('apt-get', ['install', '-y', '-q', '--no-install-recommends', ...missing], { env })
}
