import type { SignInState } from '@conch/contract'
import type { Context } from 'hono'
import type { Actor } from '../../access/actor.ts'
import type { Services } from '../../http/route.ts'
import { findSecret, hasManagerWithSecret, loadSecrets } from '../../stores/access.ts'
import { deviceOf } from './signIn.ts'

/**
 * How one signs in at the device that asks. Names are shown on devices of the house, and in the demo: a phone in the
 * street learns nobody's.
 */
export async function showSignIn(actor: Actor, context: Context, services: Services): Promise<SignInState> {
  const { db } = services.database
  const held = await services.held.now()
  const device = await deviceOf(context, db)
  const isDemo = held.base?.isDemo ?? false
  const showsNames = device !== undefined || isDemo
  const shown = isDemo ? await loadSecrets(db) : []
  const person = actor.id === undefined ? undefined : held.person(actor.id)
  const own = person && (await findSecret(db, person.id))
  return {
    house: held.base?.settings.name ?? '',
    isDemo,
    hasManager: await hasManagerWithSecret(db),
    device: device ? { id: device.id, name: device.name, well: device.well } : null,
    you: person
      ? {
          id: person.id,
          name: person.name,
          role: person.role,
          mustChange: own?.mustChange ?? false,
          isLocked: actor.session?.isLocked ?? false,
        }
      : null,
    people: showsNames
      ? held.people
          .filter((p) => p.isActive)
          .map(({ id, name, role }) => ({ id, name, role, shown: shown.find((s) => s.personId === id)?.shown ?? null }))
      : null,
    isSecure: isSafe(context),
  }
}

/** This machine itself counts: nobody else hears what it says to itself. */
const isSafe = (c: Context) => {
  const { isSecure, host } = c.get('visitor')
  return isSecure || /^(localhost|127\.0\.0\.1|\[::1\])(:\d+)?$/.test(host)
}
