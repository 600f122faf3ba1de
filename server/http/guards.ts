/** What stands before every request: whether it comes to an address of ours, and from a page of ours. */

import { hostname, networkInterfaces } from 'node:os'
import type { Context, MiddlewareHandler } from 'hono'
import type { Logger } from 'pino'
import type { OpenDatabase } from '../database/index.ts'
import { Refusal } from '../errors/Refusal.ts'
import { drain } from './readBody.ts'

/** The names of this machine that always lead here. */
const LOCAL = ['localhost', '127.0.0.1', '[::1]']

/** Every name under which the house may be asked for: of this machine when it listens to others, too. */
export function hostNames(listensTo: string, more: readonly string[] = []): Set<string> {
  const isOpen = listensTo === '0.0.0.0' || listensTo === '::'
  const own = isOpen
    ? Object.values(networkInterfaces()).flatMap((all) =>
        (all ?? []).map((a) => (a.family === 'IPv6' ? `[${a.address}]` : a.address)),
      )
    : [listensTo]
  return new Set([...LOCAL, ...own, ...(isOpen ? [hostname()] : []), ...more].map((h) => h.toLowerCase()))
}

/** The name in a Host header, without its port. */
const nameOf = (host: string) => host.toLowerCase().replace(/:\d+$/, '')

/**
 * Refuses what a web page elsewhere could make a browser send: a Host that is none of ours (a name that was bent to
 * this machine), and a write whose Origin is not the Host.
 */
export function guardAddress(hosts: ReadonlySet<string>): MiddlewareHandler {
  return async (c, next) => {
    const { host } = c.get('visitor')
    if (!hosts.has(nameOf(host)))
      throw new Refusal(
        'wrongHost',
        `“${host.slice(0, 100)}” is no address of this house; who serves it names it in CONCH_HOSTS`,
      )
    const isRead = c.req.method === 'GET' || c.req.method === 'HEAD'
    const origin = c.req.header('origin')
    if (!isRead && origin !== undefined && !isSameHost(origin, host))
      throw new Refusal('wrongHost', `a page of “${origin.slice(0, 100)}” may not change anything here`)
    const site = c.req.header('sec-fetch-site')
    if (!isRead && site !== undefined && site !== 'same-origin')
      throw new Refusal('wrongHost', 'a page of another site may not change anything here')
    // A browser always says so; a program that is signed in can.
    if (!isRead && origin === undefined && site === undefined && c.req.header('cookie') !== undefined)
      throw new Refusal('wrongHost', 'a change with a sign-in says where it comes from: send the header Origin')
    await next()
  }
}

function isSameHost(origin: string, host: string): boolean {
  try {
    return new URL(origin).host.toLowerCase() === host.toLowerCase()
  } catch {
    return false
  }
}

/** Requests that are being answered. */
export class InFlight {
  count = 0
  private readonly waiting = new Set<() => void>()

  /** Resolves when none is left, or when it has taken too long. */
  async end(withinMs: number): Promise<void> {
    if (this.count === 0) return
    await new Promise<void>((resolve) => {
      const done = () => {
        clearTimeout(timer)
        this.waiting.delete(done)
        resolve()
      }
      const timer = setTimeout(done, withinMs)
      this.waiting.add(done)
    })
  }

  middleware(database: OpenDatabase): MiddlewareHandler {
    return async (_c, next) => {
      if (!database.isTaking) throw new Refusal('notReady', 'the house is closing or changing; try again in a moment')
      this.count += 1
      try {
        await next()
      } finally {
        this.count -= 1
        if (this.count === 0) for (const done of [...this.waiting]) done()
      }
    }
  }
}

/** Whoever still sends a body that nobody will read hears why. */
export const drained: MiddlewareHandler = async (c, next) => {
  await next()
  if (c.res.status >= 400) await drain(c.req.raw.body)
}

/** One line for each request: what, who, how long. Never a body, and never what stands in one. */
export function requestLog(log: Logger): MiddlewareHandler {
  return async (c: Context, next) => {
    const began = performance.now()
    await next()
    const { method, path } = c.req
    const ms = Math.round(performance.now() - began)
    log.info({ id: c.get('requestId'), method, path, status: c.res.status, ms, person: c.get('person') }, 'request')
  }
}
