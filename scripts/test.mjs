/**
 * `npm test`: installs what it needs, then format and lint, types, the structure, unit,
 * server and browser tests. The last line adds up what the runners report by themselves.
 */

import { spawnSync } from 'node:child_process'
import { existsSync, mkdirSync, readdirSync, readFileSync, rmSync } from 'node:fs'
import { join } from 'node:path'
import { build, install, installDebian, ROOT } from './prepare.mjs'

install()
const postgres = '/usr/lib/postgresql'
installDebian({
  chromium: () => existsSync(process.env.CHROMIUM ?? '/usr/bin/chromium'),
  postgresql: () =>
    existsSync(postgres) && readdirSync(postgres).some((v) => existsSync(join(postgres, v, 'bin/initdb'))),
})

const reports = join(ROOT, 'reports')
rmSync(reports, { recursive: true, force: true })
mkdirSync(reports)
let passed = 0
let failed = 0

/** Databases and browser profiles of the tests go to memory where the machine offers it: a slow disk is no defect. */
const memory = '/dev/shm'
const env = existsSync(memory) ? { TMPDIR: memory, ...process.env } : process.env

function start(name, command, args) {
  console.log(`\n── ${name}`)
  return spawnSync(command, args, { cwd: ROOT, env, stdio: 'inherit' }).status === 0
}

/** A check that is one thing: it passes or fails. */
function check(name, command, args) {
  if (start(name, command, args)) passed += 1
  else failed += 1
}

/** A runner that counts its own tests. One that fails without saying which is one failure. */
function runTests(name, args, report, count) {
  const isOk = start(name, 'npx', args)
  const path = join(reports, report)
  const counted = existsSync(path) ? count(JSON.parse(readFileSync(path, 'utf8'))) : { passed: 0, failed: 0 }
  passed += counted.passed
  failed += counted.failed
  if (!isOk && counted.failed === 0) failed += 1
}

check('format and lint', 'npx', ['biome', 'ci', '.'])
for (const room of ['core', 'contract', 'server', 'web', 'tsconfig.tools.json'])
  check(`types: ${room}`, 'npx', ['tsc', '-p', room])
check('structure', process.execPath, ['scripts/checkStructure.mjs'])
build()
runTests(
  'unit and server tests',
  ['vitest', 'run', '--reporter=default', '--reporter=json', '--outputFile.json=reports/unit.json'],
  'unit.json',
  (r) => ({ passed: r.numPassedTests, failed: r.numFailedTests }),
)
runTests('browser tests', ['playwright', 'test', '-c', 'e2e/playwright.config.ts'], 'browser.json', (r) => ({
  passed: r.stats.expected,
  failed: r.stats.unexpected + r.stats.flaky,
}))
console.log(`\n${passed} passed, ${failed} failed`)
process.exit(failed > 0 ? 1 : 0)
