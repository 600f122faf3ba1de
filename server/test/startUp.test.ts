/** Starting the built server's parts by hand: who has the directory, what the environment says wrong. */

import { spawnSync } from 'node:child_process'
import { mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { hostname, tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import { DirectoryInUse, lockDirectory } from '../database/lockDirectory.ts'
import { SERVER_ROOT } from '../database/paths.ts'

let directory: string
beforeEach(() => {
  directory = mkdtempSync(join(tmpdir(), 'conch-start-'))
})
afterEach(() => rmSync(directory, { recursive: true, force: true }))

/** What a killed process leaves behind: its lock and its name. */
function leaveLock(pid: number, host: string): void {
  mkdirSync(join(directory, 'in-use.lock'))
  writeFileSync(join(directory, 'in-use.json'), JSON.stringify({ pid, host, since: '2026-01-02T03:04:05.000Z' }))
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

  it('of nobody knows whom is respected, too', async () => {
    mkdirSync(join(directory, 'in-use.lock'))
    await expect(lockDirectory(directory)).rejects.toThrow('is open in another process')
  })

  it('makes the directory when it is not there', async () => {
    const release = await lockDirectory(join(directory, 'new/deep'))
    await release()
    await (await lockDirectory(join(directory, 'new/deep')))()
  })
})

describe('the server', () => {
  it.each(['eighty', '0', '70000', '12.5'])('says what PORT=%s should have been, in one line', (port) => {
    const main = join(SERVER_ROOT, 'main.ts')
    const env = { ...process.env, PORT: port, CONCH_DATA: directory }
    const ended = spawnSync(process.execPath, ['--import', 'tsx', main], { env, encoding: 'utf8' })
    expect(ended.stderr).toBe(`PORT is “${port}”; it must be a whole number from 1 to 65535.\n`)
    expect(ended.status).toBe(1)
  })
})
