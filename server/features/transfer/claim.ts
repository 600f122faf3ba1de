/** A house that came in from a copy has people and no secrets: whoever brought it in makes the first. */

import { type Person, ROLES } from '@conch/contract'
import type { Context } from 'hono'
import { invalid, Refusal } from '../../errors/Refusal.ts'
import type { Write } from '../../events/index.ts'
import type { Services } from '../../http/route.ts'
import { hasManagerWithSecret, type Secret, saveSecret } from '../../stores/access.ts'
import { assertGoodSecret, newSecret, signIn } from '../access/index.ts'
import { findImport } from './importJob.ts'

/**
 * @param importId the number of the import, which nobody knows but who began it
 * @throws Refusal where somebody can open the house already, or this import is not what brought it
 */
export async function proveClaim(
  { importId, name, secret }: { importId: string; name: string; secret: string },
  { database: { db }, held, now }: Services,
): Promise<{ person: Person; secret: Secret }> {
  if (await hasManagerWithSecret(db)) throw new Refusal('exists', 'a manager can sign in already; ask them')
  if (findImport(importId)?.state !== 'done')
    throw new Refusal('notFound', `no import ${importId} brought this house in; on its machine: npm run reset-manager`)
  const managers = (await held.now()).people.filter((p) => p.isActive && p.role === 'manager')
  const person = managers.find((p) => p.name === name)
  if (!person) throw invalid('name', `is no manager of this house; ${managers.map((p) => p.name).join(', ')} are`)
  assertGoodSecret(secret, person)
  return { person, secret: await newSecret(person, secret, { mustChange: false, now: now() }) }
}

export async function claimHouse(
  { person, secret }: { person: Person; secret: Secret },
  context: Context,
  now: Date,
  write: Write,
) {
  if (await hasManagerWithSecret(write.db)) throw new Refusal('exists', 'a manager can sign in already; ask them')
  await saveSecret(write.db, secret)
  write.record({
    kind: 'person',
    subject: String(person.id),
    verb: 'changed',
    detail: { secret: `the first passphrase of a ${ROLES.manager}` },
  })
  const actor = { id: undefined, role: 'nobody' as const, name: '' }
  return signIn({ person, secret, device: undefined }, { actor, context, now }, write)
}
