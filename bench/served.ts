/** A server process with a house, as somebody with many hands asks it: how long answers take, and how large they are. */

import { spawn } from 'node:child_process'
import { readFileSync } from 'node:fs'
import { gunzipSync } from 'node:zlib'
import { measured } from '../server/testing/letIn.ts'

export interface Served {
  url: string
  readyMs: number
  /** The most memory that the process had until now, MB. */
  memoryMb(): number
  stop(): Promise<void>
}

/** The most memory that a process had, MB; while it lives. */
export const memoryMbOf = (pid: number | undefined): number =>
  Math.round(Number(/VmHWM:\s+(\d+)/.exec(readFileSync(`/proc/${pid}/status`, 'utf8'))?.[1]) / 1000)

/** Starts the built server on a data directory, or on a PostgreSQL server. */
export async function serve(
  main: string,
  { directory, databaseUrl = '', port }: { directory: string; databaseUrl?: string; port: number },
): Promise<Served> {
  const env = {
    ...process.env,
    PORT: String(port),
    CONCH_DATA: directory,
    DATABASE_URL: databaseUrl,
    CONCH_MOST_REQUESTS: '100000000',
  }
  const startedAt = performance.now()
  const child = spawn(process.execPath, [main], { env, stdio: 'ignore' })
  const url = `http://localhost:${port}`
  const isReady = () =>
    fetch(`${url}/api/ready`).then(
      (r) => r.ok,
      () => false,
    )
  while (!(await isReady())) {
    if (child.exitCode !== null) throw new Error(`the server ended with ${child.exitCode}`)
    await new Promise((r) => setTimeout(r, 20))
  }
  return {
    url,
    readyMs: performance.now() - startedAt,
    memoryMb: () => memoryMbOf(child.pid),
    stop: async () => {
      const ended = new Promise((r) => child.on('exit', r))
      child.kill('SIGTERM')
      await ended
    },
  }
}

export interface Asked {
  status: number
  ms: number
  /** As it came, packed; and as it is. */
  packedBytes: number
  bytes: number
  etag: string | null
  json: () => unknown
}

/** One request, as a browser makes it. @throws Error for anything that is no answer */
export async function ask(
  url: string,
  path: string,
  { method = 'GET', body, etag }: { method?: string; body?: unknown; etag?: string | null } = {},
): Promise<Asked> {
  const startedAt = performance.now()
  const response = await fetch(url + path, {
    method,
    headers: {
      ...measured(url),
      ...(etag ? { 'if-none-match': etag } : {}),
      ...(body === undefined ? {} : { 'content-type': 'application/json' }),
    },
    ...(body === undefined ? {} : { body: JSON.stringify(body) }),
  })
  const content = Buffer.from(await response.arrayBuffer())
  const ms = performance.now() - startedAt
  if (response.status >= 400)
    throw new Error(`${method} ${path}: ${response.status} ${content.toString().slice(0, 300)}`)
  const packed = Number(response.headers.get('content-length') ?? content.length)
  return {
    status: response.status,
    ms,
    packedBytes: packed,
    bytes: isPacked(content) ? gunzipSync(content).length : content.length,
    etag: response.headers.get('etag'),
    json: () => JSON.parse(content.toString()),
  }
}

const isPacked = (content: Buffer) => content[0] === 0x1f && content[1] === 0x8b

/** The value below which a share of all lie. */
export function quantile(values: readonly number[], share: number): number {
  if (values.length === 0) throw new Error('nothing was measured')
  const sorted = [...values].sort((a, b) => a - b)
  return sorted[Math.min(sorted.length - 1, Math.ceil(share * sorted.length) - 1)] as number
}

/** So many at once, over and over, until the time is over. @returns how long each took, ms */
export async function load(
  hands: number,
  forMs: number,
  one: (hand: number, turn: number) => Promise<number>,
): Promise<number[]> {
  const until = performance.now() + forMs
  const all: number[] = []
  await Promise.all(
    Array.from({ length: hands }, async (_, hand) => {
      for (let turn = 0; performance.now() < until; turn++) all.push(await one(hand, turn))
    }),
  )
  return all
}
