import { mkdirSync, readFileSync, rmSync, unlinkSync, writeFileSync } from 'node:fs'
import { hostname } from 'node:os'
import { join } from 'node:path'
import { lock } from 'proper-lockfile'

/** Somebody else has the data directory open. The message is for a person. */
export class DirectoryInUse extends Error {}

interface Owner {
  pid: number
  host: string
  since: string
  /** When the process began, as the system counts it: another process may get the same number later. */
  began?: string | undefined
}

/** Without a sign of life for so long, a process on another machine is taken for dead; on this one we ask. */
const STALE_MS = 10 * 60_000
const GUARD_TRIES = 200
const GUARD_WAIT_MS = 50

/**
 * Takes the data directory for this process, or says who has it. Two processes in one directory would corrupt it
 * without a word. On this machine the owner is asked for by its number, however long it was busy: a lock is taken over
 * only from a process that is gone.
 * @returns a function that gives it back
 * @throws DirectoryInUse
 */
export async function lockDirectory(directory: string): Promise<() => Promise<void>> {
  mkdirSync(directory, { recursive: true })
  const options = { lockfilePath: join(directory, 'in-use.lock'), stale: STALE_MS, update: 60_000, realpath: false }
  const ownerPath = join(directory, 'in-use.json')
  const take = () => lock(directory, { ...options, onCompromised: () => process.exit(70) })
  // One at a time looks and takes: between two who both found the owner gone, the second would take from the first.
  const leave = await guard(join(directory, 'in-use.guard'))
  try {
    const owner = readOwner(ownerPath)
    if (owner && isHere(owner) && isAlive(owner)) throw new DirectoryInUse(inUseMessage(directory, owner))
    if (owner && isHere(owner)) rmSync(options.lockfilePath, { recursive: true, force: true })
    let release: () => Promise<void>
    try {
      release = await take()
    } catch (cause) {
      throw new DirectoryInUse(inUseMessage(directory, owner), { cause })
    }
    const mine: Owner = {
      pid: process.pid,
      host: hostname(),
      since: new Date().toISOString(),
      began: beganOf(process.pid),
    }
    writeFileSync(ownerPath, JSON.stringify(mine))
    return async () => {
      rmSync(ownerPath, { force: true })
      await release()
    }
  } finally {
    leave()
  }
}

const wait = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms))

/** Held for the moment of looking and taking. A guard of a process that is gone is taken away. */
async function guard(path: string): Promise<() => void> {
  const mine = `${process.pid} ${Math.random()}`
  for (let tries = 0; tries < GUARD_TRIES; tries++) {
    try {
      writeFileSync(path, mine, { flag: 'wx' })
      await wait(GUARD_WAIT_MS)
      if (readFileSync(path, 'utf8') === mine) return () => rmSync(path, { force: true })
    } catch {
      const pid = Number(readText(path)?.split(' ')[0])
      if (pid > 0 && !isRunning(pid)) removeQuietly(path)
    }
    await wait(GUARD_WAIT_MS)
  }
  throw new DirectoryInUse(`Another process is opening the same data directory; if none is, delete ${path}.`)
}

function removeQuietly(path: string): void {
  try {
    unlinkSync(path)
  } catch {
    // Somebody else was faster.
  }
}

function readText(path: string): string | undefined {
  try {
    return readFileSync(path, 'utf8')
  } catch {
    return undefined
  }
}

function readOwner(path: string): Owner | undefined {
  try {
    const owner: unknown = JSON.parse(readFileSync(path, 'utf8'))
    return typeof owner === 'object' && owner !== null && 'pid' in owner && 'host' in owner
      ? (owner as Owner)
      : undefined
  } catch {
    return undefined
  }
}

const isHere = ({ host }: Owner) => host === hostname()

function isRunning(pid: number): boolean {
  try {
    process.kill(pid, 0)
    return true
  } catch (error) {
    return (error as NodeJS.ErrnoException).code !== 'ESRCH'
  }
}

/** When a process began, in ticks since the machine did; undefined where the system does not say. */
function beganOf(pid: number): string | undefined {
  // Behind the name, which may hold anything, in brackets: the 20th field.
  return readText(`/proc/${pid}/stat`)?.split(') ').at(-1)?.split(' ')[19]
}

function isAlive({ pid, began }: Owner): boolean {
  if (!isRunning(pid)) return false
  const now = beganOf(pid)
  return began === undefined || now === undefined || began === now
}

function inUseMessage(directory: string, owner: Owner | undefined): string {
  const who = owner ? `process ${owner.pid} on ${owner.host}, since ${owner.since}` : 'another process'
  return `The data directory ${directory} is open in ${who}. Stop that one first, or choose another directory with CONCH_DATA.`
}
