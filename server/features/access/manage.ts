/** What a manager does for others: first secrets, locks lifted, devices enrolled. */

import { type Device, type Person, type PersonSignIn, secretKindOf } from '@conch/contract'
import type { Context } from 'hono'
import type { Actor } from '../../access/actor.ts'
import type { Database } from '../../database/index.ts'
import { DEVICE_KEPT_S } from '../../door/sessions.ts'
import { newDeviceCode, newToken, tokenHash } from '../../door/token.ts'
import { writeCookie } from '../../door/visitor.ts'
import { invalid, Refusal } from '../../errors/Refusal.ts'
import type { Write } from '../../events/index.ts'
import { heldHouse } from '../../held/index.ts'
import type { Services } from '../../http/route.ts'
import {
  deleteDevice,
  deleteSessionsOf,
  forgetTries,
  insertDevice,
  insertDeviceCode,
  loadDevices,
  loadSecrets,
  loadSessions,
  loadTries,
  type Secret,
  saveSecret,
  takeDeviceCode,
  updateDevice,
} from '../../stores/access.ts'
import { findPerson } from '../../stores/people.ts'
import { askForTurn, LOCKED_AT, lockKeyOf } from './patience.ts'
import { assertGoodSecret, newSecret } from './signIn.ts'

const CODE_LASTS_MS = 10 * 60_000

/** How everybody signs in. */
export async function listSignIns({ database: { db }, held, now }: Services): Promise<PersonSignIn[]> {
  const [secrets, sessions, tries] = await Promise.all([loadSecrets(db), loadSessions(db, now()), loadTries(db)])
  const { people } = await held.now()
  return people.map(({ id }) => {
    const secret = secrets.find((s) => s.personId === id)
    const isOf = new RegExp(`^(person:${id}|(device|from):.*/${id})$`)
    return {
      personId: id,
      hasSecret: secret !== undefined,
      mustChange: secret?.mustChange ?? false,
      wrongTries: tries.filter((t) => isOf.test(t.key)).reduce((sum, t) => sum + t.failures, 0),
      isLockedOut: tries.some((t) => t.key === lockKeyOf(id) && t.failures >= LOCKED_AT),
      sessions: sessions.filter((s) => s.personId === id).map(({ device, since }) => ({ device, since })),
    }
  })
}

/** A first secret, hashed: slow, so before the write. @throws Refusal for one that is too easy, or of nobody */
export async function hashFirst(personId: number, secret: string, { held, now }: Services): Promise<Secret> {
  const person = (await held.now()).person(personId)
  if (!person) throw new Refusal('notFound', `there is no person ${personId}`)
  assertGoodSecret(secret, person)
  return newSecret(person, secret, { mustChange: true, now: now() })
}

/** They change it themselves when they come; wherever they are signed in, they no longer are. */
export async function giveSecret(secret: Secret, actor: Actor, { db, record }: Write) {
  const person = await findPerson(db, secret.personId)
  if (!person) throw new Refusal('notFound', `there is no person ${secret.personId}`)
  if (person.id === actor.id) throw invalid('secret', 'your own you change with the one you have')
  // Hashed for what they were a moment ago.
  if (secretKindOf(person.role) !== secret.kind)
    throw invalid('secret', `${person.name} is something else by now; look again`)
  await saveSecret(db, secret)
  await deleteSessionsOf(db, person.id)
  await forgetTries(db, lockKeyOf(person.id))
  const detail = { secret: secret.kind === 'pin' ? 'a first PIN' : 'a first passphrase' }
  record({ kind: 'person', subject: String(person.id), verb: 'changed', detail })
  return { done: true as const }
}

/** A manager's secret, lost and made anew on the machine itself: nobody is asked, and all who were signed in as them leave. */
export async function resetSecret({ id, role }: Person, hash: string, { db, now, record }: Write): Promise<void> {
  const secret = { kind: secretKindOf(role), hash, shown: null, mustChange: true, changedAt: now() }
  await saveSecret(db, { personId: id, ...secret })
  await deleteSessionsOf(db, id)
  await forgetTries(db, lockKeyOf(id))
  record({
    kind: 'person',
    subject: String(id),
    verb: 'changed',
    detail: { secret: 'made anew on the machine itself' },
  })
}

export async function liftLock(personId: number, { db, record }: Write) {
  const person = await findPerson(db, personId)
  if (!person) throw new Refusal('notFound', `there is no person ${personId}`)
  await forgetTries(db, lockKeyOf(personId))
  record({ kind: 'person', subject: String(personId), verb: 'lifted' })
  return { done: true as const }
}

/** Shown on a manager's screen, typed on the device. */
export async function makeDeviceCode(
  { name, well }: { name: string; well: string | null },
  { id, name: madeBy }: Actor,
  { db, now, record }: Write,
) {
  await assertWell(db, well)
  const code = newDeviceCode()
  const until = new Date(now().getTime() + CODE_LASTS_MS)
  await insertDeviceCode(db, { codeHash: tokenHash(code), name, well, madeBy, madeById: id ?? 0, until })
  record({ kind: 'device', subject: name, verb: 'coded' })
  return { code, until: until.toISOString() }
}

async function assertWell(db: Database, well: string | null): Promise<void> {
  const { wells = [] } = (await heldHouse(db)).base ?? {}
  if (well !== null && !wells.some((w) => w.slug === well)) throw invalid('well', `there is no well “${well}”`)
}

/** Codes are tried no oftener than secrets. @throws Refusal `tooMany` */
export async function askToEnrol(context: Context, { database: { db }, now }: Services): Promise<void> {
  const { address } = context.get('visitor')
  await askForTurn(db, undefined, { deviceId: undefined, address }, now())
}

/** @throws Refusal for a code that is no longer good */
export async function enrolDevice(
  { code }: { code: string },
  context: Context,
  { db, now, record, actAs }: Write,
): Promise<Device> {
  const taken = await takeDeviceCode(db, tokenHash(code), now())
  if (!taken) throw invalid('code', 'is not good, or no longer: a manager’s screen makes a new one')
  const token = newToken()
  const { name, well, madeBy, madeById } = taken
  const device = await insertDevice(db, {
    name,
    well,
    tokenHash: tokenHash(token),
    enrolledBy: madeBy,
    enrolledById: madeById,
    enrolledAt: now(),
  })
  writeCookie(context, 'device', token, DEVICE_KEPT_S)
  actAs({ id: madeById, name: madeBy, role: 'manager' })
  record({ kind: 'device', subject: String(device.id), verb: 'enrolled', detail: { name, well } })
  return device
}

export async function changeDevice(
  device: Pick<Device, 'id' | 'revision' | 'name' | 'well'>,
  { db, record }: Write,
): Promise<Device> {
  const was = (await loadDevices(db)).find((d) => d.id === device.id)
  if (!was) throw new Refusal('notFound', `there is no device ${device.id}`)
  await assertWell(db, device.well)
  const is = await updateDevice(db, device)
  if (!is)
    throw new Refusal('conflict', `${was.name} was changed in between; load it again and repeat`, { current: was })
  record({ kind: 'device', subject: String(is.id), verb: 'changed', detail: { was, is } })
  return is
}

/** It is a stranger again, and whoever was signed in on it is not. */
export async function removeDevice(id: number, { db, record }: Write) {
  const was = await deleteDevice(db, id)
  if (!was) throw new Refusal('notFound', `there is no device ${id}`)
  record({ kind: 'device', subject: String(id), verb: 'removed', detail: { was } })
  return { done: true as const }
}
