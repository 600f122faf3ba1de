/** From where a request comes, and its cookies. */

import { getConnInfo } from '@hono/node-server/conninfo'
import type { Context, MiddlewareHandler } from 'hono'
import { deleteCookie, getCookie, setCookie } from 'hono/cookie'

export interface Visitor {
  address: string
  /** The line is encrypted: cookies are kept to such lines. */
  isSecure: boolean
  /** The host that the browser asked for. */
  host: string
}

declare module 'hono' {
  interface ContextVariableMap {
    visitor: Visitor
  }
}

const lastOf = (list: string | undefined) => list?.split(',').at(-1)?.trim()

function addressOf(c: Context): string {
  try {
    return getConnInfo(c).remote.address ?? 'unknown'
  } catch {
    // Asked without a connection, as tests do.
    return 'here'
  }
}

/**
 * @param trustsProxy whether a proxy stands before the house, whose word is taken for who asks and how. Without one
 * anybody could say so.
 */
export function readVisitor(trustsProxy: boolean): MiddlewareHandler {
  return async (c, next) => {
    const proxied = (name: string) => (trustsProxy ? lastOf(c.req.header(name)) : undefined)
    const url = new URL(c.req.url)
    c.set('visitor', {
      address: proxied('x-forwarded-for') ?? addressOf(c),
      isSecure: (proxied('x-forwarded-proto') ?? url.protocol.replace(':', '')) === 'https',
      host: proxied('x-forwarded-host') ?? c.req.header('host') ?? url.host,
    })
    await next()
  }
}

const NAMES = { session: 'conch', device: 'conch-device' } as const
export type CookieKind = keyof typeof NAMES

/** On a line that others can read the browser would not keep the stricter kind. */
const nameOf = (c: Context, kind: CookieKind) => (c.get('visitor').isSecure ? `__Host-${NAMES[kind]}` : NAMES[kind])

export const readCookie = (c: Context, kind: CookieKind): string | undefined => getCookie(c, nameOf(c, kind))

/** No script can read it, and no page elsewhere makes the browser send it. */
export function writeCookie(c: Context, kind: CookieKind, token: string, maxAgeS: number): void {
  const { isSecure } = c.get('visitor')
  setCookie(c, nameOf(c, kind), token, {
    path: '/',
    httpOnly: true,
    sameSite: 'Strict',
    secure: isSecure,
    maxAge: maxAgeS,
  })
}

export function dropCookie(c: Context, kind: CookieKind): void {
  deleteCookie(c, nameOf(c, kind), { path: '/', secure: c.get('visitor').isSecure })
}
