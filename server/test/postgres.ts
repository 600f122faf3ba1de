/** A PostgreSQL server for the tests, in a temporary directory, gone when they end. */

import { execFileSync } from 'node:child_process'
import { chownSync, existsSync, mkdtempSync, readdirSync, rmSync } from 'node:fs'
import { tmpdir, userInfo } from 'node:os'
import { join } from 'node:path'
import type { TestProject } from 'vitest/node'

declare module 'vitest' {
  interface ProvidedContext {
    postgresUrl: string
  }
}

const DEBIAN = '/usr/lib/postgresql'

function binaries(): string {
  const versions = existsSync(DEBIAN) ? readdirSync(DEBIAN).sort((a, b) => Number(b) - Number(a)) : []
  for (const version of versions) {
    const folder = join(DEBIAN, version, 'bin')
    if (existsSync(join(folder, 'initdb'))) return folder
  }
  throw new Error('no PostgreSQL server is installed; `npm test` installs Debian’s')
}

/** initdb refuses root: then it runs as the user that Debian's package makes. */
function run(program: string, args: string[]): void {
  const isRoot = userInfo().uid === 0
  const [command, all] = isRoot ? ['runuser', ['-u', 'postgres', '--', program, ...args]] : [program, args]
  execFileSync(command, all, { stdio: 'ignore', cwd: '/' })
}

export default function setup(project: TestProject): () => void {
  const bin = binaries()
  const folder = mkdtempSync(join(tmpdir(), 'conch-postgres-'))
  if (userInfo().uid === 0) {
    const id = (flag: string) => Number(execFileSync('id', [flag, 'postgres'], { encoding: 'utf8' }))
    chownSync(folder, id('-u'), id('-g'))
  }
  const data = join(folder, 'data')
  const port = 40_000 + (process.pid % 20_000)
  run(join(bin, 'initdb'), ['-D', data, '-U', 'conch', '--auth=trust', '-E', 'UTF8', '--no-sync'])
  const options = `-p ${port} -k ${folder} -c listen_addresses=127.0.0.1 -c fsync=off`
  run(join(bin, 'pg_ctl'), ['-D', data, '-w', '-l', join(folder, 'log'), '-o', options, 'start'])
  project.provide('postgresUrl', `postgres://conch@127.0.0.1:${port}/postgres`)
  return () => {
    run(join(bin, 'pg_ctl'), ['-D', data, '-m', 'immediate', 'stop'])
    rmSync(folder, { recursive: true, force: true })
  }
}
