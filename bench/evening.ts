/**
 * A loud evening: a hundred devices on the feed, reads and writes beside them; and a house that is killed again and again in
 * the middle of it. What was acknowledged is there afterwards, and every device heard of it once.
 */

import { mkdtempSync, readFileSync, rmSync } from 'node:fs'
import { get } from 'node:http'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import type { FeedFrame, VerifyReport } from '@conch/contract'
import { signInAt } from '../server/testing/signIn.ts'
import { type StartedServer, startBuilt } from '../server/testing/startBuilt.ts'
import { withPostgres } from './grownHouse.ts'

type Say = (what: string, figure: string, aim?: string) => void
type Headers = Record<string, string>

const DEVICES = 100
const READS_PER_S = 45
const WRITES_PER_S = 5
const LASTS_S = 60
const STREAMS_A_SIGN_IN = 5
const KILLS = 50
/** The limit of one sign-in is that of one device; here a few ask for a hundred. */
const ENV = { CONCH_MOST_REQUESTS: '100000000' }

const READ = [
  '/api/menu/poured?well=hearth',
  '/api/menu/poured?well=courtyard',
  '/api/tonight',
  '/api/drinks?limit=40',
  '/api/drinks/low-water-bell',
  '/api/drinks/tide-clerk',
  '/api/shelf?of=lime-juice,brackwater',
  '/api/house',
  '/api/pourable?well=hearth&of=menu',
]

/** One device: hears what happens, and when. */
class Device {
  readonly heard: { what: string; at: number }[] = []
  frames = 0
  last = 0
  breaks = 0
  private isLeaving = false
  private leave = () => {}
  private readonly url: string
  private readonly headers: Headers

  constructor(url: string, headers: Headers) {
    this.url = url
    this.headers = headers
    this.listen()
  }

  private listen(): void {
    const again = () => {
      if (this.isLeaving) return
      this.breaks += 1
      setTimeout(() => this.listen(), 100)
    }
    const headers = {
      ...this.headers,
      accept: 'text/event-stream',
      ...(this.last ? { 'last-event-id': this.last } : {}),
    }
    const request = get(`${this.url}/api/feed`, { headers }, (response) => {
      let text = ''
      response.setEncoding('utf8')
      response.on('data', (part: string) => {
        text += part
        const parts = text.split('\n\n')
        text = parts.pop() ?? ''
        for (const p of parts) this.hear(p)
      })
      response.on('close', again)
    })
    request.on('error', () => again())
    this.leave = () => request.destroy()
  }

  private hear(part: string): void {
    const at = performance.now()
    const field = (name: string) => part.match(new RegExp(`^${name}: (.*)$`, 'm'))?.[1] ?? ''
    const id = Number(field('id'))
    if (id > 0) this.last = id
    if (field('event') !== 'changed') return
    this.frames += 1
    const { changed } = JSON.parse(field('data')) as FeedFrame
    for (const what of changed === 'everything' ? ['everything'] : changed)
      if (what === 'everything' || what.startsWith('drink/')) this.heard.push({ what, at })
  }

  stop(): void {
    this.isLeaving = true
    this.leave()
  }
}

const sleep = (ms: number) => new Promise((r) => setTimeout(r, ms))
const rssMb = (pid: number | undefined) =>
  Math.round(Number(/VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${pid}/status`, 'utf8'))?.[1]) / 1000)
const at = (sorted: readonly number[], share: number) =>
  sorted[Math.min(sorted.length - 1, Math.floor(sorted.length * share))] ?? Number.NaN
const ms = (value: number) => `${value.toFixed(0)} ms`

async function ask(url: string, path: string, headers: Headers, body?: unknown) {
  const startedAt = performance.now()
  const response = await fetch(url + path, {
    method: body === undefined ? 'GET' : 'POST',
    headers: { ...headers, ...(body === undefined ? {} : { 'content-type': 'application/json' }) },
    ...(body === undefined ? {} : { body: JSON.stringify(body) }),
  })
  const text = await response.text()
  return { status: response.status, ms: performance.now() - startedAt, text, startedAt }
}

async function evening(say: Say, on: string, servers: readonly StartedServer[]): Promise<void> {
  const of = (n: number) => servers[n % servers.length] as StartedServer
  const people = ['Manager', 'Lead', 'Bartender Hearth', 'Bartender Courtyard']
  const signedIn: { url: string; headers: Headers }[] = []
  for (let n = 0; n < DEVICES / STREAMS_A_SIGN_IN; n++)
    signedIn.push({ url: of(n).url, headers: await signInAt(of(n).url, people[n % people.length]) })
  const devices = Array.from({ length: DEVICES }, (_, n) => {
    const { url, headers } = signedIn[n % signedIn.length] as (typeof signedIn)[number]
    return new Device(url, headers)
  })
  const lead = await Promise.all(servers.map((s) => signInAt(s.url, 'Lead')))
  await sleep(3_000)
  const memory: number[][] = []
  const reads: number[] = []
  const writes: number[] = []
  const wrong: string[] = []
  const said = new Map<string, number>()
  const underWay: Promise<void>[] = []
  const write = async (n: number) => {
    const server = n % servers.length
    const { url } = of(n)
    const headers = lead[server] as Headers
    if (n % 5 === 4) {
      const made = await ask(url, '/api/outs', headers, {
        kind: 'ingredient',
        of: 'falernum',
        well: null,
        level: 'out',
      })
      writes.push(made.ms)
      if (made.status >= 400) return void wrong.push(`${made.status} outs ${made.text.slice(0, 100)}`)
      const { id } = JSON.parse(made.text) as { id: number }
      const ended = await ask(url, `/api/outs/${id}/end`, headers, { why: 'back' })
      // Another one may have been faster: that is an answer.
      if (ended.status >= 400 && ended.status !== 409) wrong.push(`${ended.status} end`)
      return
    }
    const made = await ask(url, '/api/drinks', headers, { name: `Evening ${n}` })
    writes.push(made.ms)
    if (made.status !== 201) wrong.push(`${made.status} drinks ${made.text.slice(0, 100)}`)
    else said.set(`drink/${(JSON.parse(made.text) as { slug: string }).slug}`, made.startedAt)
  }
  const began = performance.now()
  let [asked, written] = [0, 0]
  while (performance.now() - began < LASTS_S * 1000) {
    const s = (performance.now() - began) / 1000
    while (asked < s * READS_PER_S) {
      const { url, headers } = signedIn[asked % signedIn.length] as (typeof signedIn)[number]
      const path = READ[asked % READ.length] as string
      asked += 1
      underWay.push(
        ask(url, path, headers).then((answer) => {
          reads.push(answer.ms)
          if (answer.status !== 200) wrong.push(`${answer.status} ${path}`)
        }),
      )
    }
    while (written < s * WRITES_PER_S) underWay.push(write(written++))
    if (memory.length < s / 10) memory.push(servers.map((server) => rssMb(server.child.pid)))
    await sleep(10)
  }
  await Promise.all(underWay)
  await sleep(2_000)
  memory.push(servers.map((server) => rssMb(server.child.pid)))
  const delays: number[] = []
  let [missed, twice, outOfOrder] = [0, 0, 0]
  for (const device of devices) {
    const mine = new Map<string, number>()
    for (const { what, at: heardAt } of device.heard) {
      if (mine.has(what)) twice += 1
      else mine.set(what, heardAt)
    }
    const order = [...mine.keys()].filter((w) => said.has(w))
    const first = (devices[0] as Device).heard.map((h) => h.what).filter((w) => said.has(w))
    if (order.join() !== [...new Set(first)].join()) outOfOrder += 1
    for (const [what, sentAt] of said) {
      const heardAt = mine.get(what)
      if (heardAt === undefined) missed += 1
      else delays.push(heardAt - sentAt)
    }
  }
  for (const device of devices) device.stop()
  const all = [...reads, ...writes].sort((a, b) => a - b)
  delays.sort((a, b) => a - b)
  const breaks = devices.reduce((sum, d) => sum + d.breaks, 0)
  say(
    `${on}, ${DEVICES} devices, ${reads.length} reads and ${writes.length} writes in ${LASTS_S} s: answers`,
    `p50 ${ms(at(all, 0.5))}, p99 ${ms(at(all, 0.99))}, most ${ms(at(all, 1))}; ${wrong.length} wrong${wrong.length ? ` (${wrong.slice(0, 3).join('; ')})` : ''}`,
    'p99 under 300 ms, none wrong',
  )
  say(
    `${on}: from a write to every device`,
    `p50 ${ms(at(delays, 0.5))}, p99 ${ms(at(delays, 0.99))}, most ${ms(at(delays, 1))} of ${delays.length}; ${missed} missed, ${twice} told twice, ${outOfOrder} devices in another order, ${breaks} lines broken`,
    'under 1 s, none missed',
  )
  say(`${on}: memory each ten seconds, MB`, memory.map((m) => m.join('+')).join(', '), 'flat')
}

export async function benchEvening(say: Say): Promise<void> {
  const directory = mkdtempSync(join(tmpdir(), 'conch-evening-'))
  try {
    const one = await startBuilt({ env: { ...ENV, CONCH_DATA: directory } })
    await evening(say, 'PGlite', [one])
    one.child.kill('SIGKILL')
  } finally {
    rmSync(directory, { recursive: true, force: true })
  }
  await withPostgres(async (databaseUrl) => {
    const folder = mkdtempSync(join(tmpdir(), 'conch-evening-'))
    const start = (n: number) =>
      startBuilt({ env: { ...ENV, CONCH_DATA: join(folder, String(n)), DATABASE_URL: databaseUrl } })
    const servers = [await start(1), await start(2)]
    await evening(say, 'PostgreSQL, two processes', servers)
    for (const s of servers) s.child.kill('SIGKILL')
    rmSync(folder, { recursive: true, force: true })
  })
}

/** Killed fifty times in the middle of writes: each time what was acknowledged is there, and is told once to who comes back. */
export async function benchKills(say: Say): Promise<void> {
  const directory = mkdtempSync(join(tmpdir(), 'conch-kills-'))
  const env = { ...ENV, CONCH_DATA: directory }
  let server = await startBuilt({ env })
  const { port, url } = server
  const headers = await signInAt(url, 'Lead')
  const acknowledged: string[] = []
  const device = new Device(url, headers)
  let lost = 0
  let n = 0
  for (let kill = 0; kill < KILLS; kill++) {
    let isKilled = false
    const before = acknowledged.length
    const hands = Array.from({ length: 4 }, async () => {
      while (!isKilled) {
        const name = `Kill ${kill} ${n++}`
        const made = await ask(url, '/api/drinks', headers, { name }).catch(() => undefined)
        if (made?.status === 201) acknowledged.push((JSON.parse(made.text) as { slug: string }).slug)
      }
    })
    // By count, never by the clock alone; and at another moment of a write each time.
    while (acknowledged.length < before + 8 + (kill % 5)) await sleep(1)
    await sleep(kill % 7)
    server.child.kill('SIGKILL')
    isKilled = true
    await Promise.all(hands)
    server = await startBuilt({ port, env })
    for (const slug of acknowledged.slice(before))
      if ((await ask(url, `/api/drinks/${slug}`, headers)).status !== 200) lost += 1
  }
  await sleep(3_000)
  const heard = new Map<string, number>()
  for (const { what } of device.heard) heard.set(what, (heard.get(what) ?? 0) + 1)
  const skipped = acknowledged.filter((slug) => !heard.has(`drink/${slug}`)).length
  const twice = acknowledged.filter((slug) => (heard.get(`drink/${slug}`) ?? 0) > 1).length
  const everything = heard.get('everything') ?? 0
  const manager = await signInAt(url)
  const chain = JSON.parse((await ask(url, '/api/verify', manager)).text) as VerifyReport
  device.stop()
  server.child.kill('SIGKILL')
  rmSync(directory, { recursive: true, force: true })
  say(
    `killed ${KILLS} times in the middle of ${acknowledged.length} acknowledged writes`,
    `${lost} lost; to one device ${skipped} not told by name, ${twice} told twice, ${everything} times told that everything may be another; chain of ${chain.events} events ${chain.problems?.length ?? 0} problems`,
    'none lost, none twice, none skipped',
  )
}
