import { mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { hostname } from 'node:os'
import { join } from 'node:path'
import { lock } from 'proper-lockfile'

/** Somebody else has the data directory open. The message is for a person. */
export class DirectoryInUse extends Error {}

interface Owner {
  pid: number
  host: string
  since: string
}

const STALE_MS = 10_000

/**
 * Takes the data directory for this process, or says who has it. Two processes in one directory
 * would corrupt it without a word. A lock left by a process that was killed on this machine is
 * taken over at once; one from elsewhere after ten seconds without a sign of life.
 * @returns a function that gives it back
 * @throws DirectoryInUse
 */
export async function lockDirectory(directory: string): Promise<() => Promise<void>> {
  mkdirSync(directory, { recursive: true })
  const options = { lockfilePath: join(directory, 'in-use.lock'), stale: STALE_MS, update: 2_000, realpath: false }
  const ownerPath = join(directory, 'in-use.json')
  const take = () => lock(directory, { ...options, onCompromised: () => process.exit(70) })
  let release: () => Promise<void>
  try {
    release = await take()
  } catch (cause) {
    const owner = readOwner(ownerPath)
    if (!owner || !isDead(owner)) throw new DirectoryInUse(inUseMessage(directory, owner), { cause })
    // Not ours to release politely: its owner is gone.
    rmSync(options.lockfilePath, { recursive: true, force: true })
    release = await take()
  }
  const owner: Owner = { pid: process.pid, host: hostname(), since: new Date().toISOString() }
  writeFileSync(ownerPath, JSON.stringify(owner))
  return release
}

function readOwner(path: string): Owner | undefined {
  try {
    return JSON.parse(readFileSync(path, 'utf8')) as Owner
  } catch {
    return undefined
  }
}

function isDead({ pid, host }: Owner): boolean {
  if (host !== hostname()) return false
  try {
    process.kill(pid, 0)
    return false
  } catch (error) {
    return (error as NodeJS.ErrnoException).code === 'ESRCH'
  }
}

function inUseMessage(directory: string, owner: Owner | undefined): string {
  const who = owner ? `process ${owner.pid} on ${owner.host}, since ${owner.since}` : 'another process'
  return `The data directory ${directory} is open in ${who}. Stop that one first, or choose another directory with CONCH_DATA.`
}
