import { type Act, mayDo, whileLocked } from '@conch/contract'
import type { Context } from 'hono'
import { type Actor, NOBODY } from '../access/actor.ts'
import { Refusal } from '../errors/Refusal.ts'
import type { HeldHouse } from '../held/index.ts'
import { type Sessions, SIGNED_IN_S } from './sessions.ts'
import { readCookie, writeCookie } from './visitor.ts'

/** Which person a page believes to be signed in: a page that is wrong about it does nothing in another's name. */
const BELIEVED = 'conch-person'

/**
 * Who asks: the person of the session whose token came in the cookie.
 * @param act what they ask for: where anybody may, nobody is refused for being somebody else than the page believes
 * @throws Refusal `nobody` where another person has signed in on this device since the page was opened
 */
export async function readActor(c: Context, held: HeldHouse, sessions: Sessions, act: Act): Promise<Actor> {
  const found = await findSignedIn(c, held, sessions)
  if (!found) return NOBODY
  const { token, session, person } = found
  const believed = c.req.header(BELIEVED)
  if (believed !== undefined && believed !== String(person.id) && !mayDo('nobody', act))
    throw new Refusal('nobody', `${person.name} has signed in on this device since; say who you are`)
  const next = await sessions.turn(session, token)
  if (next !== undefined) writeCookie(c, 'session', next, Math.max(1, SIGNED_IN_S))
  return actorOf(found)
}

/** Who is signed in by now, for an answer that goes on: no new token can be given to them any more. */
export async function readActorAgain(c: Context, held: HeldHouse, sessions: Sessions): Promise<Actor> {
  const found = await findSignedIn(c, held, sessions)
  return found ? actorOf(found) : NOBODY
}

async function findSignedIn(c: Context, held: HeldHouse, sessions: Sessions) {
  const token = readCookie(c, 'session')
  if (!token) return undefined
  const session = await sessions.find(token, held)
  const person = session && held.person(session.personId)
  return session && person?.isActive ? { token, session, person } : undefined
}

const actorOf = ({
  session: { id, isLocked, deviceId },
  person,
}: NonNullable<Awaited<ReturnType<typeof findSignedIn>>>): Actor => ({
  id: person.id,
  name: person.name,
  role: isLocked ? whileLocked(person.role) : person.role,
  session: { id, isLocked, deviceId },
})
