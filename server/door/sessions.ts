/** Who is signed in: found by a token on every request, so it is remembered until somebody signs in or out. */

import type { Device } from '@conch/contract'
import { LRUCache } from 'lru-cache'
import type { Database, OpenDatabase } from '../database/index.ts'
import type { HeldHouse } from '../held/index.ts'
import { findSession, insertSession, offerToken, type StoredSession, turnToken } from '../stores/access.ts'
import { newToken, tokenHash } from './token.ts'

/** A shift, and the walk home. */
export const SIGNED_IN_S = 16 * 3600
/** Browsers keep no cookie longer. */
export const DEVICE_KEPT_S = 400 * 86_400
/** A token is another one each hour. */
const TURN_EVERY_MS = 3_600_000
/** How long a new token may be on its way before another is handed out. */
const OFFER_AGAIN_MS = 60_000
/** The token before counts so much longer, for what was on its way. */
const GRACE_MS = 120_000
/** Another process may have locked it; what ends a session is told by events, and at once. */
const REMEMBERED_MS = 2_000
const MOST_REMEMBERED = 2_000

/** The token before counts for a while only. */
const stillCounts = ({ until, previousHash, previousUntil }: StoredSession, hash: string, now: Date): boolean =>
  until > now && (previousHash !== hash || (previousUntil !== null && previousUntil > now))

export class Sessions {
  private readonly found = new LRUCache<string, StoredSession>({ max: MOST_REMEMBERED, ttl: REMEMBERED_MS })
  private state = ''
  private readonly database: OpenDatabase
  private readonly now: () => Date

  constructor({ database, now }: { database: OpenDatabase; now: () => Date }) {
    this.database = database
    this.now = now
  }

  /** @param held as of now: another state of what signs people in and out makes everything be looked up again */
  async find(token: string, held: HeldHouse): Promise<StoredSession | undefined> {
    const state = `${held.id} ${held.lastOf(['session', 'person', 'device', 'house'])}`
    if (state !== this.state) {
      this.state = state
      this.found.clear()
    }
    const hash = tokenHash(token)
    const known = this.found.get(hash)
    if (known && stillCounts(known, hash, this.now())) return known
    const session = await findSession(this.database.db, hash, this.now())
    if (session && this.state === state) this.found.set(hash, session)
    return session
  }

  /** @returns a newer token for the one who came with this one, where it is time */
  async turn(session: StoredSession, token: string): Promise<string | undefined> {
    const { db } = this.database
    const now = this.now()
    const hash = tokenHash(token)
    if (session.nextHash === hash) {
      await turnToken(db, { id: session.id, hash, now, previousUntil: new Date(now.getTime() + GRACE_MS) })
      this.found.clear()
      return undefined
    }
    if (session.tokenHash !== hash || now.getTime() - session.turnedAt.getTime() < TURN_EVERY_MS) return undefined
    const next = newToken()
    const notSince = new Date(now.getTime() - OFFER_AGAIN_MS)
    if (session.nextAt && session.nextAt > notSince) return undefined
    const isOffered = await offerToken(db, {
      id: session.id,
      tokenHash: hash,
      nextHash: tokenHash(next),
      now,
      notSince,
    })
    this.found.delete(hash)
    return isOffered ? next : undefined
  }
}

/** Signs somebody in. @returns the token, which is nowhere else */
export async function startSession(
  db: Database,
  {
    personId,
    device,
    now,
    lastsS = SIGNED_IN_S,
  }: {
    personId: number
    device: Pick<Device, 'id'> | undefined
    now: Date
    lastsS?: number
  },
): Promise<string> {
  const token = newToken()
  await insertSession(db, {
    personId,
    deviceId: device?.id ?? null,
    tokenHash: tokenHash(token),
    madeAt: now,
    turnedAt: now,
    until: new Date(now.getTime() + lastsS * 1000),
  })
  return token
}
