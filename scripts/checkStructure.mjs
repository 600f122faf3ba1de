/**
 * Holds the structure: core ← contract ← server, web; core imports no I/O and no framework; features meet only in each
 * other's `index.ts`; what is below knows nothing of what is above; nothing goes round in a circle, not between
 * folders and not between files. Once per run each rule is shown a planted violation: one that misses it holds nothing.
 */

import { existsSync, readdirSync, readFileSync } from 'node:fs'
import { builtinModules } from 'node:module'
import { dirname, join, relative, resolve } from 'node:path'
import { ROOT } from './prepare.mjs'

const HOUSES = ['core', 'contract', 'server', 'web']
const MAY_IMPORT = {
  core: ['core'],
  contract: ['core', 'contract'],
  server: ['core', 'contract', 'server'],
  web: ['core', 'contract', 'web'],
}
const PACKAGES = { core: new Set(['zod', 'date-fns', '@date-fns/tz', 'ts-fsrs']), contract: new Set(['zod']) }
const TEST_PACKAGES = new Set(['vitest', 'fast-check'])
/** What is lowest in its house: it may use only these other folders. */
const LOWEST = {
  'core/schema': [],
  'server/database': [],
  'server/errors': ['server/database'],
  'server/threads': ['server/errors'],
  'server/stores': ['server/database', 'server/errors'],
  'web/ui': ['web/theme'],
  'web/graphics': ['web/ui', 'web/theme'],
  'web/theme': [],
}
/** Of core the database knows the forms of documents, no behaviour. */
const IS_FORM = /^core\/(schema\/|[\w/]*[sS]chema\.ts$)/
/** Those that put the features together; tests and tools may use anything. */
const IS_ABOVE_FEATURES = /^(server|web)\/[^/]+\.tsx?$/
const IS_TEST = /(\.test\.tsx?$|^(server\/test|server\/testing|core\/testing)\/)/
const IMPORT =
  /(?:^|\n)\s*(?:import|export)\s(?:[^'"`;]*?\sfrom\s)?\s*['"]([^'"]+)['"]|import\(\s*['"]([^'"]+)['"]\s*\)/g

function sources(folder) {
  return readdirSync(folder, { withFileTypes: true }).flatMap((entry) => {
    const path = join(folder, entry.name)
    if (entry.isDirectory()) return ['node_modules', 'dist'].includes(entry.name) ? [] : sources(path)
    return /\.tsx?$/.test(entry.name) ? [path] : []
  })
}

/** The file of ours that a specifier leads to, as a path from the root; undefined for a package from elsewhere. */
function targetOf(specifier, path) {
  const ours = /^@conch\/(\w+)(?:\/(.+))?$/.exec(specifier)
  if (ours) {
    const [, house, inside] = ours
    if (!inside) return `${house}/index.ts`
    return existsSync(join(ROOT, house, `${inside}.ts`)) ? `${house}/${inside}.ts` : `${house}/${inside}/index.ts`
  }
  return specifier.startsWith('.') ? relative(ROOT, resolve(dirname(join(ROOT, path)), specifier)) : undefined
}

const houseOf = (path) => path.split('/')[0]
/** The feature that a file belongs to, if any: `web/features/drink`. */
const featureOf = (path) => /^(?:server|web)\/features\/[^/]+/.exec(path)?.[0]
/** The folder that a file belongs to: what must not go round in a circle. */
const folderOf = (path) =>
  featureOf(path) ?? (houseOf(path) === 'contract' ? 'contract' : path.split('/').slice(0, -1).slice(0, 2).join('/'))

/** Every import of ours and of others, of files as { path, text }. */
function importsOf(files) {
  return files.flatMap(({ path, text }) =>
    [...text.matchAll(IMPORT)].map((match) => {
      const specifier = match[1] ?? match[2]
      return { path, specifier, target: targetOf(specifier, path) }
    }),
  )
}

function packageProblem({ path, specifier }) {
  const allowed = PACKAGES[houseOf(path)]
  if (!allowed) return undefined
  const name = specifier
    .replace(/^node:/, '')
    .split('/')
    .slice(0, specifier.startsWith('@') ? 2 : 1)
    .join('/')
  const isBuiltin = specifier.startsWith('node:') || builtinModules.includes(name)
  const isAllowed = allowed.has(name) || (/\.test\.tsx?$/.test(path) && TEST_PACKAGES.has(name))
  return isBuiltin || !isAllowed ? `${houseOf(path)} may use only ${[...allowed]}` : undefined
}

/** Those who speak the database's language; tests may, too. */
const KNOWS_DRIZZLE = /^server\/(database|stores|events|held|kept|copy)\//

/** What is wrong with an import, if anything. */
function problemOf({ path, specifier, target }) {
  if (/^drizzle-orm/.test(specifier) && !KNOWS_DRIZZLE.test(path) && !IS_TEST.test(path))
    return 'stores ask the database'
  if (target === undefined) return packageProblem({ path, specifier })
  const [from, to] = [houseOf(path), houseOf(target)]
  if (!MAY_IMPORT[from].includes(to)) return `${from} must not import ${to}`
  if (IS_TEST.test(path)) return undefined
  const [own, other] = [featureOf(path), featureOf(target)]
  if (other && other !== own) {
    if (!own && !IS_ABOVE_FEATURES.test(path)) return 'features are above it'
    if (own && !/\/index\.tsx?$/.test(target)) return `features meet in ${other}/index.ts`
  }
  const folder = folderOf(path)
  const may = LOWEST[folder]
  if (may && from === to && folderOf(target) !== folder && !may.includes(folderOf(target)))
    return `${folder} is below ${folderOf(target)}`
  if (folder === 'server/database' && to === 'core' && !IS_FORM.test(target) && target !== 'core/schema/index.ts')
    return 'the database knows forms of documents, no behaviour'
  return undefined
}

/** The circles of a graph, each as the names in it. @param edges from → to, by name */
function circlesOf(edges) {
  const numbers = new Map()
  const lowest = new Map()
  const stack = []
  const circles = []
  const visit = (name) => {
    numbers.set(name, numbers.size)
    lowest.set(name, numbers.get(name))
    stack.push(name)
    for (const next of edges.get(name) ?? []) {
      if (!numbers.has(next)) visit(next)
      if (stack.includes(next)) lowest.set(name, Math.min(lowest.get(name), lowest.get(next)))
    }
    if (lowest.get(name) !== numbers.get(name)) return
    const circle = stack.splice(stack.indexOf(name))
    if (circle.length > 1) circles.push(circle)
  }
  for (const name of edges.keys()) if (!numbers.has(name)) visit(name)
  return circles
}

function graphOf(imports, nameOf) {
  const edges = new Map()
  for (const { path, target } of imports) {
    if (target === undefined || IS_TEST.test(path)) continue
    const [from, to] = [nameOf(path), nameOf(target)]
    if (from !== to) edges.set(from, (edges.get(from) ?? new Set()).add(to))
  }
  return edges
}

/** Everything that goes against the structure, in files as { path, text }. */
function findViolations(files) {
  const imports = importsOf(files)
  const wrong = imports.flatMap((one) => {
    const problem = problemOf(one)
    return problem ? [`${one.path} imports ${one.specifier}: ${problem}`] : []
  })
  // The files at the top of a house put its folders together: they are no folder.
  const inFolders = imports.filter((i) => i.target && !IS_ABOVE_FEATURES.test(i.path))
  const circles = [...circlesOf(graphOf(inFolders, folderOf)), ...circlesOf(graphOf(imports, (path) => path))]
  return [...wrong, ...circles.map((names) => `a circle: ${names.join(' → ')}`)]
}

/** What each rule must find, or it holds nothing. */
const PLANTED = [
  { rule: 'core is pure', files: [['core/planted.ts', "import { readFileSync } from 'node:fs'"]] },
  { rule: 'core uses few packages', files: [['core/planted.ts', "import { Hono } from 'hono'"]] },
  { rule: 'the direction of the houses', files: [['core/planted.ts', "import { x } from '../server/main.ts'"]] },
  { rule: 'web and server meet in the contract', files: [['web/planted.ts', "import { x } from '../server/main.ts'"]] },
  {
    rule: 'features meet in their index',
    files: [['web/features/lots/planted.ts', "import { x } from '../mixes/planted.ts'"]],
  },
  { rule: 'features are on top', files: [['web/shelf/planted.ts', "import { x } from '../features/lots/index.ts'"]] },
  { rule: 'ui knows no app', files: [['web/ui/planted.ts', "import { x } from '../app/api.ts'"]] },
  {
    rule: 'the database knows no http',
    files: [['server/database/planted.ts', "import { x } from '../http/route.ts'"]],
  },
  {
    rule: 'the database knows no physics',
    files: [['server/database/planted.ts', "import { x } from '@conch/core/liquid'"]],
  },
  {
    rule: 'stores ask the database',
    files: [['server/features/lots/planted.ts', "import { eq } from 'drizzle-orm'"]],
  },
  {
    rule: 'no circle of folders',
    files: [
      ['core/liquid/planted.ts', "import { x } from '../cold/planted.ts'"],
      ['core/cold/planted.ts', "import { x } from '../liquid/other.ts'"],
    ],
  },
  {
    rule: 'no circle of files',
    files: [
      ['core/liquid/planted.ts', "import { x } from './other.ts'"],
      ['core/liquid/other.ts', "import { x } from './planted.ts'"],
    ],
  },
]

const LEAST_FILES = 400
const files = HOUSES.flatMap((house) =>
  sources(join(ROOT, house)).map((path) => ({ path: relative(ROOT, path), text: readFileSync(path, 'utf8') })),
)
const misses = PLANTED.filter(
  ({ files: planted }) => findViolations(planted.map(([path, text]) => ({ path, text: `${text}\n` }))).length !== 1,
)
if (files.length < LEAST_FILES || misses.length > 0) {
  console.error(`the check is broken: it read ${files.length} files; missed: ${misses.map((m) => m.rule).join(', ')}`)
  process.exit(1)
}
const violations = findViolations(files)
for (const violation of violations) console.error(violation)
console.log(`structure: ${files.length} files, ${PLANTED.length} rules proved, ${violations.length} violations`)
process.exit(violations.length > 0 ? 1 : 0)
