/** Coming in, leaving, locking, and one's own secret. */

import { type Device, type Person, secretKindOf, secretProblem, type You } from '@conch/contract'
import type { Context } from 'hono'
import type { Actor } from '../../access/actor.ts'
import type { Database } from '../../database/index.ts'
import { hashSecret, isSecret } from '../../door/secret.ts'
import { DEVICE_KEPT_S, SIGNED_IN_S, startSession } from '../../door/sessions.ts'
import { tokenHash } from '../../door/token.ts'
import { dropCookie, readCookie, writeCookie } from '../../door/visitor.ts'
import { invalid, Refusal } from '../../errors/Refusal.ts'
import type { Write } from '../../events/index.ts'
import type { Services } from '../../http/route.ts'
import {
  deleteSession,
  deleteSessionsOf,
  findDevice,
  findSecret,
  lockSession,
  type Secret,
  saveSecret,
} from '../../stores/access.ts'
import { findPerson } from '../../stores/people.ts'
import { askForTurn } from './patience.ts'

/** Names are typed in the dark: case and what stands around do not matter. */
const plainName = (name: string) => name.normalize('NFKC').trim().toLowerCase()
/** Whether two names would be the same to whoever signs in. */
export const isSameName = (a: string, b: string): boolean => plainName(a) === plainName(b)

export async function deviceOf(c: Context, db: Database): Promise<Device | undefined> {
  const token = readCookie(c, 'device')
  return token === undefined ? undefined : findDevice(db, tokenHash(token))
}

const youOf = ({ id, name, role }: Person, { mustChange }: Pick<Secret, 'mustChange'>): You => ({
  id,
  name,
  role,
  mustChange,
})

/** @throws Refusal naming what is wrong with a secret that somebody chose */
export function assertGoodSecret(secret: string, { role, name }: Pick<Person, 'role' | 'name'>): void {
  const problem = secretProblem(secret, role, name)
  if (problem) throw invalid('secret', problem)
}

interface SigningIn {
  person: Person
  secret: Secret
  device: Device | undefined
}

/**
 * Looks whether somebody is who they say: slow on purpose, so before the write.
 * @throws Refusal `wrongSecret`, the same for a name that nobody has
 */
export async function proveWho(
  { name, secret: said }: { name: string; secret: string },
  context: Context,
  { database: { db }, held: holder, now }: Services,
): Promise<SigningIn> {
  const held = await holder.now()
  const person = held.people.find((p) => p.isActive && isSameName(p.name, name))
  const device = await deviceOf(context, db)
  const { address } = context.get('visitor')
  const itWasRight = await askForTurn(db, person, { deviceId: device?.id, address }, now())
  const secret = person && (await findSecret(db, person.id))
  const isRight = await isSecret(secret?.hash, said)
  if (!isRight || !person || !secret) throw new Refusal('wrongSecret', 'that name and that word do not belong together')
  await itWasRight()
  if (secret.kind !== secretKindOf(person.role))
    throw new Refusal(
      'notAllowed',
      person.role === 'manager'
        ? `${person.name} is a manager now, and managers sign in by passphrase: another manager gives you a first one`
        : `${person.name} signs in by PIN now: a manager gives you a first one`,
    )
  return { person, secret, device }
}

/**
 * Whoever was signed in on this device no longer is.
 * @throws Refusal where what was proved is no longer so: somebody may have taken the word, the person or the device away
 */
export async function signIn(
  { person: proved, secret, device: provedOn }: SigningIn,
  { actor, context, now }: { actor: Actor; context: Context; now: Date },
  { db, record, actAs }: Write,
): Promise<You> {
  const person = await findPerson(db, proved.id)
  const isStillSo = person?.isActive && person.role === proved.role && (await isStill(db, secret))
  if (!person || !isStillSo) throw new Refusal('wrongSecret', 'your sign-in was changed in between; say it again')
  const device = provedOn && (await deviceOf(context, db))
  if (actor.session) await deleteSession(db, actor.session.id)
  const token = await startSession(db, { personId: person.id, device, now })
  writeCookie(context, 'session', token, SIGNED_IN_S)
  // Seen again: a device is remembered from its last evening on.
  const deviceToken = device && readCookie(context, 'device')
  if (deviceToken) writeCookie(context, 'device', deviceToken, DEVICE_KEPT_S)
  actAs({ id: person.id, name: person.name, role: person.role })
  record({ kind: 'session', subject: String(person.id), verb: 'signedIn', detail: { device: device?.name ?? null } })
  return youOf(person, secret)
}

export async function signOut({ session, id }: Actor, context: Context, { db, record }: Write) {
  if (session) await deleteSession(db, session.id)
  dropCookie(context, 'session')
  record({ kind: 'session', subject: String(id), verb: 'signedOut' })
  return { done: true as const }
}

/** Everywhere at once, here too: a phone was lost. Somebody else's only by a manager. */
export async function endSessions(personId: number | undefined, actor: Actor, { db, record }: Write) {
  const of = personId ?? actor.id
  if (of === undefined) throw new Error('bug: nobody has sessions')
  if (of !== actor.id && actor.role !== 'manager')
    throw new Refusal('notAllowed', 'only a manager signs somebody else out; ask a Manager')
  if (!(await findPerson(db, of))) throw new Refusal('notFound', `there is no person ${of}`)
  const ended = await deleteSessionsOf(db, of)
  record({ kind: 'session', subject: String(of), verb: 'signedOut', detail: { everywhere: ended } })
  return { done: true as const }
}

/** Nobody taps any more until somebody says who it is; what is shown stays. */
export async function lock({ session, id }: Actor, { db, record }: Write) {
  if (session) await lockSession(db, session.id)
  record({ kind: 'session', subject: String(id), verb: 'locked' })
  return { done: true as const }
}

/** Whether a secret that was looked at is the one that counts. */
const isStill = async (db: Database, { personId, hash }: Secret): Promise<boolean> =>
  (await findSecret(db, personId))?.hash === hash

/** @returns the new one, hashed, once the old one was right, and the old one */
export async function proveOwn(
  { old, secret }: { old: string; secret: string },
  actor: Actor,
  context: Context,
  { database: { db }, held, now }: Services,
): Promise<{ was: Secret; is: Secret }> {
  const person = (await held.now()).person(actor.id ?? 0)
  if (!person) throw new Error('bug: somebody without a person is signed in')
  const { address } = context.get('visitor')
  const itWasRight = await askForTurn(db, person, { deviceId: actor.session?.deviceId ?? undefined, address }, now())
  const stored = await findSecret(db, person.id)
  if (!(await isSecret(stored?.hash, old)) || !stored) throw invalid('old', 'that is not the one you have now')
  await itWasRight()
  assertGoodSecret(secret, person)
  if (old === secret) throw invalid('secret', 'that is the one you have now; choose another')
  return { was: stored, is: await newSecret(person, secret, { mustChange: false, now: now() }) }
}

export async function newSecret(
  { id, role }: Pick<Person, 'id' | 'role'>,
  secret: string,
  { mustChange, now }: { mustChange: boolean; now: Date },
): Promise<Secret> {
  const hash = await hashSecret(secret)
  return { personId: id, kind: secretKindOf(role), hash, shown: null, mustChange, changedAt: now }
}

/** A secret of somebody who is only being made, hashed. @throws Refusal naming what is wrong with it */
export function hashOwn(secret: string, of: Pick<Person, 'role' | 'name'>): Promise<string> {
  assertGoodSecret(secret, of)
  return hashSecret(secret)
}

/** The first manager of a new house has said a passphrase, and is in. */
export async function comeIn(person: Person, hash: string, context: Context, now: Date, { db }: Write): Promise<void> {
  const kind = secretKindOf(person.role)
  await saveSecret(db, { personId: person.id, kind, hash, shown: null, mustChange: false, changedAt: now })
  writeCookie(context, 'session', await startSession(db, { personId: person.id, device: undefined, now }), SIGNED_IN_S)
}

/** Wherever else they are signed in, they no longer are. @throws Refusal where a manager gave another one in between */
export async function changeOwnSecret(
  { was, is: secret }: { was: Secret; is: Secret },
  actor: Actor,
  { db, record }: Write,
) {
  if (!(await isStill(db, was))) throw invalid('old', 'that is no longer the one you have; a manager gave you another')
  await saveSecret(db, secret)
  await deleteSessionsOf(db, secret.personId, actor.session?.id)
  record({
    kind: 'person',
    subject: String(secret.personId),
    verb: 'changed',
    detail: { secret: secret.kind === 'pin' ? 'an own PIN' : 'an own passphrase' },
  })
  return { done: true as const }
}
