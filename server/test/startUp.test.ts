/** Starting and ending the server by hand: who has the directory, what the environment says wrong, how it closes. */

import { type ChildProcess, spawn, spawnSync } from 'node:child_process'
import {
  existsSync,
  mkdirSync,
  mkdtempSync,
  readdirSync,
  readFileSync,
  rmSync,
  utimesSync,
  writeFileSync,
} from 'node:fs'
import { request as httpsRequest } from 'node:https'
import { hostname, tmpdir } from 'node:os'
import { join } from 'node:path'
import { brotliDecompressSync } from 'node:zlib'
import type { ShelfPart } from '@conch/contract'
import { PGlite } from '@electric-sql/pglite'
import { sql } from 'drizzle-orm'
import pg from 'pg'
import { afterEach, beforeEach, describe, expect, inject, it } from 'vitest'
import { openPglite, openPostgres } from '../database/index.ts'
import { DirectoryInUse, lockDirectory } from '../database/lockDirectory.ts'
import { SERVER_ROOT, schemaStep } from '../database/paths.ts'
import { signInAt } from '../testing/signIn.ts'
import { startBuilt } from '../testing/startBuilt.ts'
import { openFresh } from './testServer.ts'

let directory: string
const children: ChildProcess[] = []
beforeEach(() => {
  directory = mkdtempSync(join(tmpdir(), 'conch-start-'))
})
afterEach(() => {
  for (const child of children.splice(0)) child.kill('SIGKILL')
  rmSync(directory, { recursive: true, force: true })
})

const beganOf = (pid: number) => readFileSync(`/proc/${pid}/stat`, 'utf8').split(') ').at(-1)?.split(' ')[19]

/** What a killed process leaves behind: its lock and its name. */
function leaveLock(pid: number, host: string, more: object = {}): void {
  mkdirSync(join(directory, 'in-use.lock'))
  const owner = { pid, host, since: '2026-01-02T03:04:05.000Z', ...more }
  writeFileSync(join(directory, 'in-use.json'), JSON.stringify(owner))
}

/** A process id that was given and is free again. */
const deadPid = () => spawnSync(process.execPath, ['-e', '']).pid

describe('the lock of a data directory', () => {
  it('left by a killed process of this machine is taken over at once', async () => {
    leaveLock(deadPid(), hostname())
    const release = await lockDirectory(directory)
    expect(JSON.parse(readFileSync(join(directory, 'in-use.json'), 'utf8')).pid).toBe(process.pid)
    await release()
  })

  it('of a living process, or of one elsewhere, is respected', async () => {
    leaveLock(process.pid, hostname())
    await expect(lockDirectory(directory)).rejects.toThrow(DirectoryInUse)
    rmSync(join(directory, 'in-use.lock'), { recursive: true })
    leaveLock(1, 'another-host')
    await expect(lockDirectory(directory)).rejects.toThrow(
      `The data directory ${directory} is open in process 1 on another-host, since 2026-01-02T03:04:05.000Z. Stop that one first, or choose another directory with CONCH_DATA.`,
    )
  })

  it('of a living process that gave no sign for an hour is still its own', async () => {
    leaveLock(process.pid, hostname(), { began: beganOf(process.pid) })
    const anHourAgo = Date.now() / 1000 - 3600
    utimesSync(join(directory, 'in-use.lock'), anHourAgo, anHourAgo)
    await expect(lockDirectory(directory)).rejects.toThrow(DirectoryInUse)
  })

  it('of a process whose number another one has by now is taken over', async () => {
    leaveLock(process.pid, hostname(), { began: '1' })
    await (await lockDirectory(directory))()
  })

  it('of nobody knows whom is respected, too', async () => {
    mkdirSync(join(directory, 'in-use.lock'))
    await expect(lockDirectory(directory)).rejects.toThrow('is open in another process')
  })

  it('goes to one of many who find the owner gone at the same moment', async () => {
    leaveLock(deadPid(), hostname())
    const script = `
      import { lockDirectory } from '${join(SERVER_ROOT, 'database/lockDirectory.ts')}'
      lockDirectory(process.argv[1]).then(() => { console.log('mine'); setTimeout(() => process.exit(0), 4000) }, () => process.exit(3))`
    const all = Array.from({ length: 4 }, () =>
      spawn(process.execPath, ['--import', 'tsx', '--input-type=module', '-e', script, directory], {
        cwd: SERVER_ROOT,
      }),
    )
    children.push(...all)
    const codes = await Promise.all(all.map((child) => new Promise((resolve) => child.on('exit', resolve))))
    expect(codes.filter((c) => c === 0)).toHaveLength(1)
    expect(codes.filter((c) => c === 3)).toHaveLength(3)
  })

  it('makes the directory when it is not there', async () => {
    const release = await lockDirectory(join(directory, 'new/deep'))
    await release()
    await (await lockDirectory(join(directory, 'new/deep')))()
  })
})

describe('a database of a newer program', () => {
  const pretend = sql`insert into drizzle.__drizzle_migrations (hash, created_at) values ('later', 1)`
  it('in a directory is left alone, in plain words', async () => {
    const first = await openPglite(directory)
    await first.db.execute(pretend)
    await first.close()
    await expect(openPglite(directory)).rejects.toThrow(
      `The data directory ${directory} was written by a newer Lazy Conch (step ${schemaStep() + 1}; this one has ${schemaStep()}).`,
    )
    // And the directory is free again.
    await (await lockDirectory(directory))()
  })
  it('on a server, too', async () => {
    const first = await openFresh('postgresql')
    await first.db.execute(pretend)
    const url = first.place && 'url' in first.place ? first.place.url : ''
    await first.close()
    await expect(openPostgres(url)).rejects.toThrow(/was written by a newer Lazy Conch/)
  })
})

describe('before the schema takes a step', () => {
  it('the closed directory is copied as it is', async () => {
    const tar = brotliDecompressSync(readFileSync(join(import.meta.dirname, 'fixtures/demo-after-0005.tar.br')))
    const options = { dataDir: join(directory, 'database'), loadDataDir: new Blob([new Uint8Array(tar)]) }
    await (await PGlite.create(options)).close()
    await (await openPglite(directory)).close()
    const [kept] = readdirSync(join(directory, 'backups'))
    expect(kept).toMatch(/^before-step-6-/)
    const old = await PGlite.create(join(directory, 'backups', kept ?? ''))
    expect((await old.query('select count(*)::int as n from drafts')).rows).toEqual([{ n: 0 }])
    await old.close()
  })
})

function run(file: string, args: string[], env: Record<string, string>) {
  const options = {
    env: { ...process.env, DATABASE_URL: '', CONCH_DATA: directory, ...env },
    encoding: 'utf8' as const,
  }
  return spawnSync(process.execPath, [join(SERVER_ROOT, 'dist', file), ...args], options)
}

async function startServer(env: Record<string, string> = {}): Promise<{ child: ChildProcess; url: string }> {
  const started = await startBuilt({ env: { CONCH_DATA: directory, ...env } })
  children.push(started.child)
  return started
}

const exit = (child: ChildProcess) => new Promise<number | null>((resolve) => child.on('exit', resolve))

describe('the server', () => {
  it.each(['eighty', '0', '70000', '12.5'])('says what PORT=%s should have been, in one line', (port) => {
    const ended = run('main.js', [], { PORT: port })
    expect(ended.stderr).toBe(`PORT is “${port}”; it must be a whole number from 1 to 65535.\n`)
    expect(ended.status).toBe(1)
  })

  it.each([
    ['postgres://conch@127.0.0.1:1/nothing', 'does not answer; is it running?'],
    ['http://127.0.0.1/x', 'DATABASE_URL is no address of a PostgreSQL server'],
    ['THEIRS/no-such-database', 'has no database of that name.'],
  ])('says what is wrong with DATABASE_URL=%s, in one line', (address, words) => {
    const url = address.replace('THEIRS', new URL('.', inject('postgresUrl')).href.replace(/\/$/, ''))
    const ended = run('main.js', [], { DATABASE_URL: url })
    expect(ended.stderr).toContain(words)
    expect(ended.stderr.trimEnd().split('\n')).toHaveLength(1)
    expect(ended.status).toBe(1)
  })

  it('listens on this machine alone unless somebody says otherwise, and not where another one does', async () => {
    const { url } = await startServer()
    const second = { port: Number(new URL(url).port), env: { CONCH_DATA: join(directory, 'second') } }
    await expect(startBuilt(second)).rejects.toThrow(`Port ${second.port} is taken. Choose another with PORT.`)
    const port = new URL(url).port
    const others = Object.values((await import('node:os')).networkInterfaces())
      .flatMap((all) => all ?? [])
      .filter((a) => !a.internal && a.family === 'IPv4')
    for (const { address } of others)
      await expect(fetch(`http://${address}:${port}/api/alive`)).rejects.toThrow('fetch failed')
    expect((await fetch(`${url}/api/alive`)).status).toBe(200)
  })

  it('asked to end under load finishes what it began, tells the rest, and loses nothing it acknowledged', async () => {
    const { child, url } = await startServer()
    const headers = { ...(await signInAt(url)), 'content-type': 'application/json' }
    const answers = Array.from({ length: 300 }, async (_, i) => {
      try {
        const body = JSON.stringify({ name: `Late ${i}` })
        const response = await fetch(`${url}/api/drinks`, { method: 'POST', headers, body })
        return { i, status: response.status }
      } catch {
        return { i, status: 0 }
      }
    })
    await Promise.race(answers)
    child.kill('SIGTERM')
    const code = await exit(child)
    const ended = await Promise.all(answers)
    expect(code).toBe(0)
    const by = (status: number) => ended.filter((a) => a.status === status)
    expect(by(201).length).toBeGreaterThan(0)
    // Taken, told to come later, or not let in any more: never a fault.
    expect(ended.filter((a) => ![201, 503, 0].includes(a.status))).toEqual([])
    const again = await openPglite(directory)
    const found = await again.db.execute(sql`select slug from drinks`)
    const slugs = (found as unknown as { rows: { slug: string }[] }).rows.map((r) => r.slug)
    for (const { i } of by(201)) expect(slugs).toContain(`late-${i}`)
    await again.close()
  })
})

describe('a PostgreSQL server that goes away', () => {
  it('in the middle of writes: 503 with the cause, then all goes on, and what was acknowledged is there', async () => {
    const database = await openFresh('postgresql')
    const url = database.place && 'url' in database.place ? database.place.url : ''
    await database.close()
    const { child, url: house } = await startServer({ DATABASE_URL: url })
    const headers = { ...(await signInAt(house)), 'content-type': 'application/json' }
    const acknowledged: string[] = []
    const statuses = new Set<number>()
    let isOver = false
    const writers = Array.from({ length: 6 }, async (_, w) => {
      for (let i = 0; !isOver; i++) {
        const name = `Cut ${w} ${i}`
        const response = await fetch(`${house}/api/drinks`, { method: 'POST', headers, body: JSON.stringify({ name }) })
        statuses.add(response.status)
        if (response.status === 201) acknowledged.push(`cut-${w}-${i}`)
        else expect(((await response.json()) as { code: string }).code).toBe('notReady')
      }
    })
    const admin = new pg.Client({ connectionString: inject('postgresUrl') })
    await admin.connect()
    const name = new URL(url).pathname.slice(1)
    for (let cut = 0; cut < 4; cut++) {
      await new Promise((r) => setTimeout(r, 300))
      await admin.query('select pg_terminate_backend(pid) from pg_stat_activity where datname = $1', [name])
    }
    await new Promise((r) => setTimeout(r, 300))
    isOver = true
    await Promise.all(writers)
    expect([...statuses].every((s) => s === 201 || s === 503)).toBe(true)
    expect(child.exitCode).toBeNull()
    expect((await fetch(`${house}/api/ready`)).status).toBe(200)
    // Not there at all for a while.
    await admin.query(`alter database ${name} with allow_connections false`)
    await admin.query('select pg_terminate_backend(pid) from pg_stat_activity where datname = $1', [name])
    const away = await fetch(`${house}/api/ready`)
    expect([away.status, ((await away.json()) as { code: string }).code]).toEqual([503, 'notReady'])
    expect((await fetch(`${house}/api/alive`)).status).toBe(200)
    await admin.query(`alter database ${name} with allow_connections true`)
    const slugs = new Set<string>()
    for (let total = 1; slugs.size < total; ) {
      const response = await fetch(`${house}/api/drinks?from=${slugs.size}`, { headers })
      const page = (await response.json()) as { total: number; rows: { slug: string }[] }
      expect(page.rows.length).toBeGreaterThan(0)
      for (const { slug } of page.rows) slugs.add(slug)
      total = page.total
    }
    expect(acknowledged.length).toBeGreaterThan(10)
    expect(acknowledged.filter((slug) => !slugs.has(slug))).toEqual([])
    await admin.end()
  })
})

describe('from the command line', () => {
  it('a house is verified, restored from its back-up with the old one set aside, and a changed byte is found', async () => {
    const { child, url } = await startServer()
    const copy = await (await fetch(`${url}/api/export`, { headers: await signInAt(url) })).text()
    const file = join(directory, 'taken.ndjson')
    writeFileSync(file, copy)
    // A running house keeps its directory.
    expect(run('restore.js', [file], {}).stderr).toMatch(/^The data directory .+ is open in process \d+/)
    child.kill('SIGTERM')
    expect(await exit(child)).toBe(0)

    const sound = run('verify.js', [], {})
    expect(sound.stdout).toContain('It holds: no row of history was changed')
    expect(sound.stdout).toContain('2 editions were computed anew from what they froze, figure by figure;')
    expect(sound.status).toBe(0)

    const changed = await openPglite(directory)
    await changed.db.transaction(async (tx) => {
      await tx.execute(sql`set local session_replication_role = replica`)
      await tx.execute(sql`update versions set reason = 'x' where drink = 'tide-clerk' and number = 1`)
    })
    await changed.close()
    const broken = run('verify.js', [], {})
    expect(broken.stdout).toMatch(/^BROKEN {2}what was there at the beginning \(event 1\) was changed/)
    expect(broken.status).toBe(1)

    writeFileSync(join(directory, 'short.ndjson'), copy.slice(0, 9000))
    const refused = run('restore.js', [join(directory, 'short.ndjson')], {})
    expect(refused.stderr).toMatch(/^Nothing was restored: line \d+: /)
    expect(existsSync(join(directory, 'database'))).toBe(true)

    const restored = run('restore.js', [file], {})
    expect(restored.stdout).toContain('Restored 14 drinks, 33 versions, 2 editions.')
    expect(readdirSync(directory).some((f) => f.startsWith('database-before-restore-'))).toBe(true)
    expect(run('verify.js', [], {}).status).toBe(0)
    expect(run('verify.js', [file], {}).status).toBe(0)
    expect(run('restore.js', [], {}).stderr).toMatch(/^Name the copy: /)
    expect(run('restore.js', ['nowhere.ndjson'], {}).stderr).toMatch(/^There is no file /)
  })
})

/** Certificates that nobody trusts but these tests. */
const TLS = {
  TLS_CERT: join(import.meta.dirname, 'fixtures/tls-for-tests-cert.pem'),
  TLS_KEY: join(import.meta.dirname, 'fixtures/tls-for-tests-key.pem'),
}

/** A request over an encrypted line, as a browser makes it. */
function overTls(
  url: string,
  path: string,
  body?: object,
): Promise<{ status: number; cookies: string[]; text: string }> {
  return new Promise((resolve, reject) => {
    const headers = body ? { 'content-type': 'application/json', origin: url } : {}
    const options = { method: body ? 'POST' : 'GET', ca: readFileSync(TLS.TLS_CERT), headers }
    const asked = httpsRequest(url + path, options, (answer) => {
      let text = ''
      answer.on('data', (data) => {
        text += data
      })
      answer.on('end', () =>
        resolve({ status: answer.statusCode ?? 0, cookies: answer.headers['set-cookie'] ?? [], text }),
      )
    })
    asked.on('error', reject)
    asked.end(body ? JSON.stringify(body) : undefined)
  })
}

describe('a secure address', () => {
  it('is served with a certificate, and cookies are kept to it', async () => {
    const { url } = await startServer(TLS)
    const secure = url.replace('http:', 'https:')
    await expect(fetch(`${url}/api/alive`)).rejects.toThrow('fetch failed')
    const state = JSON.parse((await overTls(secure, '/api/sign-in')).text)
    expect(state).toMatchObject({ isSecure: true, isDemo: true })
    const signedIn = await overTls(secure, '/api/sign-in', { name: 'Lead', secret: '4071' })
    expect(signedIn.status).toBe(200)
    expect(signedIn.cookies[0]).toMatch(
      /^__Host-conch=[\w-]{43}; Max-Age=57600; Path=\/; HttpOnly; Secure; SameSite=Strict$/,
    )
  })
  it.each([
    [{ TLS_CERT: TLS.TLS_CERT }, 'TLS_CERT and TLS_KEY belong together: name both files, or neither.'],
    [{ ...TLS, TLS_KEY: '/nowhere/key.pem' }, 'TLS_KEY names /nowhere/key.pem, which cannot be read.'],
    [{ TRUST_PROXY: 'perhaps' }, 'TRUST_PROXY is “perhaps”; it must be yes or no.'],
    [{ CONCH_MOST_REQUESTS: '-3' }, 'CONCH_MOST_REQUESTS is “-3”; it must be a whole number from 1 on.'],
  ])('said wrong ends at once, in one line: %o', (env, line) => {
    const { status, stderr } = run('main.js', [], { PORT: '47999', ...env })
    expect([status, stderr.trim()]).toEqual([1, line])
  })
})

describe('a demo house from before people signed in', () => {
  it('gets its words when it is opened as a demo, and nobody’s own word is ever overwritten', async () => {
    const tar = brotliDecompressSync(readFileSync(join(import.meta.dirname, 'fixtures/demo-after-0010.tar.br')))
    const database = join(directory, 'database')
    const client = await PGlite.create({ dataDir: database, loadDataDir: new Blob([new Uint8Array(tar)]) })
    await client.close()
    const first = await startServer()
    const manager = await signInAt(first.url)
    // Sealed formulas of before are kept from others by whole figures now.
    const lead = await signInAt(first.url, 'Lead')
    const shelf = (await (await fetch(`${first.url}/api/shelf?of=ferry-nine`, { headers: lead })).json()) as ShelfPart
    expect(shelf.ingredients[0]?.figures.abvPct.value).toBe(45)
    const own = { old: 'low tide at noon', secret: 'the eel is awake' }
    const changed = await fetch(`${first.url}/api/own-secret`, {
      method: 'PUT',
      headers: { ...manager, 'content-type': 'application/json' },
      body: JSON.stringify(own),
    })
    expect(changed.status).toBe(200)
    first.child.kill('SIGTERM')
    await exit(first.child)
    const again = await startServer()
    await expect(signInAt(again.url)).rejects.toThrow('do not belong together')
  })
})

describe('a lost passphrase', () => {
  it('is made anew on the machine itself, with the house stopped; the old one and its sign-ins are over', async () => {
    const { child, url } = await startServer()
    const before = await signInAt(url)
    expect(run('resetManager.js', [], {}).stderr).toMatch(/^The data directory .+ is open in process \d+/)
    child.kill('SIGTERM')
    await exit(child)
    expect(run('resetManager.js', ['Lead'], {}).stderr).toContain('“Lead” is no manager here')
    const made = run('resetManager.js', ['manager'], {})
    const secret = /\n {2}([a-z]+ [a-z]+ [a-z]+ [a-z]+)\n/.exec(made.stdout)?.[1] ?? ''
    expect(secret.length).toBeGreaterThan(20)

    const again = await startServer()
    const signIn = (word: string) =>
      fetch(`${again.url}/api/sign-in`, {
        method: 'POST',
        headers: { 'content-type': 'application/json', origin: again.url },
        body: JSON.stringify({ name: 'Manager', secret: word }),
      })
    expect((await fetch(`${again.url}/api/house`, { headers: before })).status).toBe(401)
    expect((await signIn('low tide at noon')).status).toBe(401)
    expect(await (await signIn(secret)).json()).toMatchObject({ name: 'Manager', mustChange: true })
  })
})
