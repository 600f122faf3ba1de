import { type Act, type Asker, mayDo, ROLES, rolesFor } from '@conch/contract'
import { Refusal } from '../errors/Refusal.ts'

/** Who is asking. */
export interface Actor {
  /** Undefined for nobody. */
  id: number | undefined
  role: Asker
  /** As it is written into history. */
  name: string
  /** Through which sign-in; undefined for nobody and for the house itself. */
  session?: { id: number; isLocked: boolean; deviceId: number | null }
}

/** A request that names no person. */
export const NOBODY: Actor = { id: undefined, role: 'nobody', name: '' }

/** What the house does by itself. */
export const HOUSE: Actor = { id: undefined, role: 'nobody', name: 'the house' }

/** What a row of history says of who wrote it: the person, and the name of then. */
export const stampOf = ({ id, name }: Actor, at: Date) => ({ savedBy: name, savedById: id ?? null, savedAt: at })

/** @throws Refusal `nobody` or `notAllowed`, naming who may */
export function assertMay({ role }: Actor, act: Act, what: string): void {
  if (mayDo(role, act)) return
  const roles = rolesFor(act)
    .map((r) => ROLES[r])
    .join(' or a ')
  if (role === 'nobody') throw new Refusal('nobody', `nobody may not ${what}; sign in as a ${roles}`)
  throw new Refusal('notAllowed', `a ${ROLES[role]} may not ${what}; ask a ${roles}`)
}
