/** The built server as a process of its own, for tests that open and end it. */

import { type ChildProcess, spawn } from 'node:child_process'
import { createServer } from 'node:net'
import { join } from 'node:path'
import { SERVER_ROOT } from '../database/paths.ts'

export interface StartedServer {
  child: ChildProcess
  port: number
  url: string
  /** What it has written to its terminal so far. */
  output: () => string
}

export async function freePort(): Promise<number> {
  const probe = createServer()
  await new Promise<void>((resolve) => probe.listen(0, '127.0.0.1', resolve))
  const { port } = probe.address() as { port: number }
  await new Promise((resolve) => probe.close(resolve))
  return port
}

const MOST_TRIES = 5

/**
 * Starts it and waits until it is open, by its own word: a port that was free a moment ago may by now be
 * somebody else's, who answers too. Then another one is taken.
 * @param options.port this one and no other
 * @throws Error with what it said, when it ends before it is open
 */
export async function startBuilt(options: {
  port?: number
  args?: string[]
  env: Record<string, string>
}): Promise<StartedServer> {
  const { args = ['--demo'] } = options
  for (let tries = 1; ; tries++) {
    const port = options.port ?? (await freePort())
    const env = { ...process.env, DATABASE_URL: '', ...options.env, PORT: String(port) }
    const child = spawn(process.execPath, [join(SERVER_ROOT, 'dist/main.js'), ...args], { env })
    let output = ''
    const isOpen = await new Promise<boolean>((resolve) => {
      const hear = (data: unknown) => {
        output += data
        if (output.includes('Lazy Conch is open')) resolve(true)
      }
      child.stdout.on('data', hear)
      child.stderr.on('data', hear)
      child.on('close', () => resolve(false))
    })
    if (isOpen) return { child, port, url: `http://localhost:${port}`, output: () => output }
    if (options.port !== undefined || tries === MOST_TRIES || !output.includes('is taken'))
      throw new Error(`the server ended: ${output}`)
  }
}
