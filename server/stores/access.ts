/** Secrets, devices, sessions and wrong tries: rows that come and go, and are never copied. */

import type { Device } from '@conch/contract'
import { and, asc, eq, gt, isNull, lt, ne, notLike, or, sql } from 'drizzle-orm'
import { deviceCodes, devices, secrets, sessions, signInTries } from '../database/accessSchema.ts'
import type { Database } from '../database/index.ts'
import { people } from '../database/schema.ts'

export type Secret = typeof secrets.$inferSelect
export type StoredSession = typeof sessions.$inferSelect

export async function findSecret(db: Database, personId: number): Promise<Secret | undefined> {
  const [row] = await db.select().from(secrets).where(eq(secrets.personId, personId))
  return row
}

export const loadSecrets = (db: Database): Promise<Secret[]> => db.select().from(secrets)

export async function saveSecret(db: Database, secret: Secret): Promise<void> {
  const { personId: _, ...set } = secret
  await db.insert(secrets).values(secret).onConflictDoUpdate({ target: secrets.personId, set })
}

/** Whether a manager who works here could sign in. */
export async function hasManagerWithSecret(db: Database): Promise<boolean> {
  const [row] = await db
    .select({ id: people.id })
    .from(people)
    .innerJoin(secrets, eq(secrets.personId, people.id))
    .where(and(eq(people.role, 'manager'), eq(people.isActive, true), eq(secrets.kind, 'passphrase')))
    .limit(1)
  return row !== undefined
}

const toDevice = ({ tokenHash: _, enrolledById: __, enrolledAt, ...device }: typeof devices.$inferSelect): Device => ({
  ...device,
  enrolledAt: enrolledAt.toISOString(),
})

export async function loadDevices(db: Database): Promise<Device[]> {
  return (await db.select().from(devices).orderBy(asc(devices.id))).map(toDevice)
}

export async function findDevice(db: Database, tokenHash: string): Promise<Device | undefined> {
  const [row] = await db.select().from(devices).where(eq(devices.tokenHash, tokenHash))
  return row && toDevice(row)
}

export async function insertDevice(
  db: Database,
  device: Omit<typeof devices.$inferInsert, 'id' | 'revision'>,
): Promise<Device> {
  const [row] = await db.insert(devices).values(device).returning()
  if (!row) throw new Error('bug: a device was not enrolled')
  return toDevice(row)
}

/** @returns undefined when another revision stands there */
export async function updateDevice(
  db: Database,
  { id, revision, name, well }: Pick<Device, 'id' | 'revision' | 'name' | 'well'>,
): Promise<Device | undefined> {
  const [row] = await db
    .update(devices)
    .set({ name, well, revision: revision + 1 })
    .where(and(eq(devices.id, id), eq(devices.revision, revision)))
    .returning()
  return row && toDevice(row)
}

/** Whoever is signed in there no longer is. @returns undefined when there is no such device */
export async function deleteDevice(db: Database, id: number): Promise<Device | undefined> {
  await db.delete(sessions).where(eq(sessions.deviceId, id))
  const [row] = await db.delete(devices).where(eq(devices.id, id)).returning()
  return row && toDevice(row)
}

export async function insertDeviceCode(db: Database, code: typeof deviceCodes.$inferInsert): Promise<void> {
  await db.insert(deviceCodes).values(code)
}

/** Takes a code: it is good once. */
export async function takeDeviceCode(
  db: Database,
  codeHash: string,
  now: Date,
): Promise<typeof deviceCodes.$inferSelect | undefined> {
  const [row] = await db.delete(deviceCodes).where(eq(deviceCodes.codeHash, codeHash)).returning()
  return row && row.until > now ? row : undefined
}

export async function insertSession(db: Database, session: typeof sessions.$inferInsert): Promise<StoredSession> {
  const [row] = await db.insert(sessions).values(session).returning()
  if (!row) throw new Error('bug: nobody was signed in')
  return row
}

/** The session that a token belongs to: the token of now, the one handed out last, or the one before. */
export async function findSession(db: Database, hash: string, now: Date): Promise<StoredSession | undefined> {
  const [row] = await db
    .select()
    .from(sessions)
    .where(
      and(
        gt(sessions.until, now),
        or(
          eq(sessions.tokenHash, hash),
          eq(sessions.nextHash, hash),
          and(eq(sessions.previousHash, hash), gt(sessions.previousUntil, now)),
        ),
      ),
    )
  return row
}

/** A newer token is handed out; only one at a time, by whichever process. @returns whether it was this one */
export async function offerToken(
  db: Database,
  {
    id,
    tokenHash,
    nextHash,
    now,
    notSince,
  }: { id: number; tokenHash: string; nextHash: string; now: Date; notSince: Date },
): Promise<boolean> {
  const rows = await db
    .update(sessions)
    .set({ nextHash, nextAt: now })
    .where(
      and(
        eq(sessions.id, id),
        eq(sessions.tokenHash, tokenHash),
        or(isNull(sessions.nextAt), lt(sessions.nextAt, notSince)),
      ),
    )
    .returning({ id: sessions.id })
  return rows.length > 0
}

/** The newer token came back: from now on it is the one. */
export async function turnToken(
  db: Database,
  { id, hash, now, previousUntil }: { id: number; hash: string; now: Date; previousUntil: Date },
): Promise<void> {
  await db
    .update(sessions)
    .set({
      previousHash: sql`${sessions.tokenHash}`,
      previousUntil,
      tokenHash: hash,
      nextHash: null,
      nextAt: null,
      turnedAt: now,
    })
    .where(and(eq(sessions.id, id), eq(sessions.nextHash, hash)))
}

export async function lockSession(db: Database, id: number): Promise<void> {
  await db.update(sessions).set({ isLocked: true }).where(eq(sessions.id, id))
}

export async function deleteSession(db: Database, id: number): Promise<void> {
  await db.delete(sessions).where(eq(sessions.id, id))
}

/** @param but a session that stays. @returns how many ended */
export async function deleteSessionsOf(db: Database, personId: number, but?: number): Promise<number> {
  const rows = await db
    .delete(sessions)
    .where(and(eq(sessions.personId, personId), ...(but === undefined ? [] : [ne(sessions.id, but)])))
    .returning({ id: sessions.id })
  return rows.length
}

export interface OpenSession {
  personId: number
  device: string | null
  since: string
}

export async function loadSessions(db: Database, now: Date): Promise<OpenSession[]> {
  const rows = await db
    .select({ personId: sessions.personId, device: devices.name, madeAt: sessions.madeAt })
    .from(sessions)
    .leftJoin(devices, eq(devices.id, sessions.deviceId))
    .where(gt(sessions.until, now))
    .orderBy(asc(sessions.id))
  return rows.map(({ madeAt, ...session }) => ({ ...session, since: madeAt.toISOString() }))
}

/** How often one may be wrong: from so many on one waits, twice as long each time. */
export interface Patience {
  /** Wrong words that cost nothing but the word. */
  free: number
  mostWaitS: number
  /** From so many on nobody is listened to until a manager says so; undefined: never. */
  lockAt?: number
  /** After so long without a try all is forgotten, where it does not lock. */
  forgetAfterS: number
}

/**
 * Takes a turn to say a secret, counted as a wrong one until it proves right: in one statement, so that of a
 * hundred at once no more are listened to than of one after the other.
 * @returns undefined where it was given, else what stands in the way
 */
export async function takeTurn(
  db: Database,
  key: string,
  { free, mostWaitS, lockAt, forgetAfterS }: Patience,
  now: Date,
): Promise<{ failures: number; freeAt: Date } | undefined> {
  const at = now.toISOString()
  const isForgotten =
    lockAt === undefined
      ? sql`${signInTries.lastAt} < ${at}::timestamptz - make_interval(secs => ${forgetAfterS})`
      : sql`false`
  const failures = sql`case when ${isForgotten} then 1 else ${signInTries.failures} + 1 end`
  const waitS = sql`case when (${failures}) <= ${free} then 0 else least(power(2, least((${failures}) - ${free}, 20)), ${mostWaitS}) end`
  const given = await db
    .insert(signInTries)
    .values({ key, failures: 1, lastAt: now, freeAt: now })
    .onConflictDoUpdate({
      target: signInTries.key,
      set: {
        failures: sql`${failures}`,
        lastAt: now,
        freeAt: sql`${at}::timestamptz + make_interval(secs => ${waitS})`,
      },
      setWhere: sql`${signInTries.freeAt} <= ${at}::timestamptz and ${lockAt === undefined ? sql`true` : sql`${signInTries.failures} < ${lockAt}`}`,
    })
    .returning({ key: signInTries.key })
  if (given.length > 0) return undefined
  const [stands] = await db.select().from(signInTries).where(eq(signInTries.key, key))
  return stands ?? { failures: 0, freeAt: now }
}

/** It was right. */
export async function forgetTries(db: Database, key: string): Promise<number> {
  const rows = await db.delete(signInTries).where(eq(signInTries.key, key)).returning({ key: signInTries.key })
  return rows.length
}

/** It was right, but the others who try from there may not be: only this one is taken back. */
export async function takeTurnBack(db: Database, key: string, now: Date): Promise<void> {
  await db
    .update(signInTries)
    .set({ failures: sql`greatest(${signInTries.failures} - 1, 0)`, freeAt: now })
    .where(eq(signInTries.key, key))
}

export async function loadTries(db: Database): Promise<{ key: string; failures: number }[]> {
  return db.select({ key: signInTries.key, failures: signInTries.failures }).from(signInTries)
}

/** What can no longer be used goes. Locks stay: only a manager lifts them. @param keptKeys the beginning of theirs */
export async function clearAccess(db: Database, now: Date, keptKeys: string): Promise<void> {
  await db.delete(sessions).where(lt(sessions.until, now))
  await db.delete(deviceCodes).where(lt(deviceCodes.until, now))
  const yesterday = new Date(now.getTime() - 86_400_000)
  await db.delete(signInTries).where(and(lt(signInTries.lastAt, yesterday), notLike(signInTries.key, `${keptKeys}%`)))
}
