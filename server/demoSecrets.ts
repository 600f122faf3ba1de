/** How one signs in to the demo house: its PINs lie beside it, and stand on its sign-in page. In no other house. */

import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { secretKindOf } from '@conch/contract'
import { z } from 'zod'
import { HOUSE } from './access/actor.ts'
import { DEMO } from './database/paths.ts'
import { hashSecret } from './door/secret.ts'
import { inWrite, type Write } from './events/index.ts'
import type { Services } from './http/route.ts'
import { loadSecrets, type Secret, saveSecret } from './stores/access.ts'
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

export async function giveDemoSecrets(secrets: readonly DemoSecret[], { db }: Pick<Write, 'db'>): Promise<void> {
  const people = await loadPeople(db)
  for (const { name, ...secret } of secrets) {
    // In a demo house of before somebody may have another name by now, or not have come yet.
    const person = people.find((p) => p.name === name && p.isActive)
    if (person)
      await saveSecret(db, { ...secret, personId: person.id, kind: secretKindOf(person.role), mustChange: false })
  }
}

/** A demo house from before people signed in gets its words, too; one in which anybody has an own word keeps to that. */
export async function openOlderDemo({
  database,
  held,
  now,
}: Pick<Services, 'database' | 'held' | 'now'>): Promise<void> {
  if (!(await held.now()).base?.isDemo || (await loadSecrets(database.db)).length > 0) return
  const secrets = await hashDemoSecrets(now())
  await inWrite(database, { actor: HOUSE, now }, (write) => giveDemoSecrets(secrets, write))
  await database.makeDurable()
}
