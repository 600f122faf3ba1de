import type { Person } from '@conch/contract'
import type { Context } from 'hono'
import { getCookie } from 'hono/cookie'
import { Refusal } from '../errors/Refusal.ts'
import { type Actor, NOBODY } from './actor.ts'

const PERSON = 'conch-person'

/**
 * Who asks: the person whose number stands in the header `conch-person`. For reading also a cookie, for what a
 * browser opens by itself (a link to a file can send no header); for writing never, or another site could make a
 * browser write.
 * @throws Refusal `nobody` for a number that is no person's, or of somebody who no longer works here
 */
export function readActor(c: Context, held: { person(id: number): Person | undefined }, isWrite: boolean): Actor {
  const given = c.req.header(PERSON) ?? (isWrite ? undefined : getCookie(c, PERSON))
  if (given === undefined || given === '') return NOBODY
  const id = /^[1-9]\d{0,8}$/.test(given) ? Number(given) : 0
  const person = id > 0 ? held.person(id) : undefined
  if (!person) throw new Refusal('nobody', `nobody here is number “${given.slice(0, 20)}”; say who works`)
  if (!person.isActive) throw new Refusal('nobody', `${person.name} no longer works here; say who works`)
  return { id: person.id, name: person.name, role: person.role }
}
