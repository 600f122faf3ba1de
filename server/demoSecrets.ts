/** How one signs in to the demo house: its PINs lie beside it, and stand on its sign-in page. In no other house. */

import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { secretKindOf } from '@conch/contract'
import { z } from 'zod'
import { DEMO } from './database/paths.ts'
import { hashSecret } from './door/secret.ts'
import type { Write } from './events/index.ts'
import { type Secret, saveSecret } from './stores/access.ts'
import { loadPeople } from './stores/people.ts'

const signInsSchema = z.array(z.strictObject({ name: z.string(), secret: z.string() }))
export type DemoSecret = Pick<Secret, 'hash' | 'shown' | 'changedAt'> & { name: string }

/** Slow, so before anything is written. */
export function hashDemoSecrets(now: Date): Promise<DemoSecret[]> {
  const signIns = signInsSchema.parse(JSON.parse(readFileSync(join(DEMO, 'sign-ins.json'), 'utf8')))
  return Promise.all(
    signIns.map(async ({ name, secret }) => ({ name, shown: secret, hash: await hashSecret(secret), changedAt: now })),
  )
}

export async function giveDemoSecrets(secrets: readonly DemoSecret[], { db }: Write): Promise<void> {
  const people = await loadPeople(db)
  for (const { name, ...secret } of secrets) {
    const person = people.find((p) => p.name === name)
    if (!person) throw new Error(`bug: the demo has a PIN for “${name}”, who does not work there`)
    await saveSecret(db, { ...secret, personId: person.id, kind: secretKindOf(person.role), mustChange: false })
  }
}
