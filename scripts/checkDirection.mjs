/**
 * Holds the direction of imports: core ← contract ← server, web. Server and web meet only in the
 * contract; core imports no I/O and no framework; features do not import each other's pages.
 */

import { readdirSync, readFileSync } from 'node:fs'
import { builtinModules } from 'node:module'
import { dirname, join, relative, resolve } from 'node:path'
import { ROOT } from './prepare.mjs'

const MAY_IMPORT = {
  core: ['core'],
  contract: ['core', 'contract'],
  server: ['core', 'contract', 'server'],
  web: ['core', 'contract', 'web'],
}
const PACKAGES = { core: new Set(['zod', 'date-fns', '@date-fns/tz']), contract: new Set(['zod']) }
const TEST_PACKAGES = new Set(['vitest', 'fast-check'])
const IMPORT =
  /(?:^|\n)\s*(?:import|export)\s(?:[^'"`;]*?\sfrom\s)?\s*['"]([^'"]+)['"]|import\(\s*['"]([^'"]+)['"]\s*\)/g

function sources(folder) {
  return readdirSync(folder, { withFileTypes: true }).flatMap((entry) => {
    const path = join(folder, entry.name)
    if (entry.isDirectory()) return ['node_modules', 'dist'].includes(entry.name) ? [] : sources(path)
    return /\.tsx?$/.test(entry.name) ? [path] : []
  })
}

/** The room a specifier leads to, or undefined for a package from elsewhere. */
function roomOf(specifier, file) {
  const ours = /^@conch\/(\w+)/.exec(specifier)
  if (ours) return ours[1]
  if (!specifier.startsWith('.')) return undefined
  return relative(ROOT, resolve(dirname(file), specifier)).split('/')[0]
}

/** Every import that goes the wrong way, in files as { path, text }. */
export function findViolations(files) {
  const violations = []
  for (const { path, text } of files) {
    const room = relative(ROOT, path).split('/')[0]
    const isTest = /\.test\.tsx?$/.test(path)
    for (const match of text.matchAll(IMPORT)) {
      const specifier = match[1] ?? match[2]
      const target = roomOf(specifier, path)
      const say = (why) => violations.push(`${relative(ROOT, path)} imports ${specifier}: ${why}`)
      if (target !== undefined) {
        if (!MAY_IMPORT[room].includes(target)) say(`${room} must not import ${target}`)
        continue
      }
      const allowed = PACKAGES[room]
      if (!allowed) continue
      const name = specifier
        .replace(/^node:/, '')
        .split('/')
        .slice(0, specifier.startsWith('@') ? 2 : 1)
        .join('/')
      const isBuiltin = specifier.startsWith('node:') || builtinModules.includes(name)
      if (isBuiltin || !(allowed.has(name) || (isTest && TEST_PACKAGES.has(name))))
        say(`${room} may use only ${[...allowed]}`)
    }
  }
  return violations
}

const files = Object.keys(MAY_IMPORT).flatMap((room) =>
  sources(join(ROOT, room)).map((path) => ({ path, text: readFileSync(path, 'utf8') })),
)
// A check that reads nothing, or that a planted violation passes, would hold nothing.
const planted = {
  path: join(ROOT, 'core/planted.ts'),
  text: "import { readFileSync } from 'node:fs'\nimport { x } from '../server/main.ts'\n",
}
if (files.length < 40 || findViolations([planted]).length !== 2) {
  console.error(`the direction check is broken: it read ${files.length} files`)
  process.exit(1)
}
const violations = findViolations(files)
for (const violation of violations) console.error(violation)
console.log(`direction of imports: ${files.length} files, ${violations.length} violations`)
process.exit(violations.length > 0 ? 1 : 0)
