import { type Act, mayDo, ROLES, type Role, rolesFor } from '@conch/contract'
import { Refusal } from '../http/Refusal.ts'

/** Who is asking. Until people sign in, the request says so itself in its headers. */
export interface Actor {
  role: Role
  /** As it is written into history. */
  name: string
}

const MOST_NAME = 80

/**
 * The actor of a request: `conch-role` (default manager) and `conch-name` (default the role's label).
 * @param cookie for what a browser opens by itself, a link to a file: there no header can be sent
 */
export function readActor(
  header: (name: string) => string | undefined,
  cookie: (name: string) => string | undefined = () => undefined,
): Actor {
  const role = header('conch-role') ?? cookie('conch-role') ?? 'manager'
  if (!Object.hasOwn(ROLES, role)) {
    throw new Refusal('notAllowed', `“${role.slice(0, 40)}” is no role; use ${Object.keys(ROLES).join(', ')}`)
  }
  // A role in the header comes with its own name or with none: the cookie's may be another person's.
  const given = header('conch-name') ?? (header('conch-role') === undefined ? cookie('conch-name') : undefined)
  // Header values are Latin-1 on the wire; the name is sent percent-encoded.
  const name = given === undefined ? '' : safeDecode(given).trim().slice(0, MOST_NAME)
  return { role: role as Role, name: name || ROLES[role as Role] }
}

function safeDecode(text: string): string {
  try {
    const decoded = decodeURIComponent(text)
    return decoded.includes('\u0000') || !decoded.isWellFormed() ? '' : decoded
  } catch {
    return ''
  }
}

/** @throws Refusal `notAllowed` naming who may */
export function assertMay(actor: Actor, act: Act, what: string): void {
  if (mayDo(actor.role, act)) return
  const roles = rolesFor(act).map((r) => ROLES[r])
  throw new Refusal('notAllowed', `a ${ROLES[actor.role]} may not ${what}; ask a ${roles.join(' or a ')}`)
}
