import { type Person, type Role, secretKindOf } from '@conch/contract'
import type { Actor } from '../../access/actor.ts'
import { invalid, Refusal } from '../../errors/Refusal.ts'
import type { Write } from '../../events/index.ts'
import { deleteSessionsOf, saveSecret } from '../../stores/access.ts'
import { findPerson, insertPerson, loadPeople, updatePerson } from '../../stores/people.ts'
import { isSameName } from '../access/index.ts'

/**
 * @param hash of their first secret, which they change when they come; undefined: they cannot sign in yet
 * @throws Refusal `exists` when the name is taken: by a name one is known in history, and signs in
 */
export async function makePerson(
  { name, role }: { name: string; role: Role },
  hash: string | undefined,
  { db, now, record }: Write,
): Promise<Person> {
  const isTaken = (await loadPeople(db)).some((p) => isSameName(p.name, name))
  const made = isTaken ? undefined : await insertPerson(db, { name, role })
  if (!made) throw new Refusal('exists', `there is a “${name}” already; tell the two apart by name`)
  if (hash !== undefined)
    await saveSecret(db, {
      personId: made.id,
      kind: secretKindOf(role),
      hash,
      shown: null,
      mustChange: true,
      changedAt: now(),
    })
  record({ kind: 'person', subject: String(made.id), verb: 'made', detail: { is: { name, role } } })
  return made
}

/**
 * Another name or role, or no longer here. What they did stays under the name of then.
 * @throws Refusal when nobody would be left who may change people
 */
export async function changePerson(person: Person, actor: Actor, { db, record }: Write): Promise<Person> {
  const was = await findPerson(db, person.id)
  if (!was) throw new Refusal('notFound', `there is no person ${person.id}`)
  const others = (await loadPeople(db)).filter((p) => p.id !== person.id)
  if (others.some((p) => isSameName(p.name, person.name)))
    throw invalid('name', `“${person.name}” is somebody else here; tell the two apart by name`)
  const isManager = (p: Person) => p.role === 'manager' && p.isActive
  if (!isManager(person) && !others.some(isManager))
    throw invalid(
      person.isActive ? 'role' : 'isActive',
      `${was.name} is the last manager; make somebody else one first`,
    )
  if (actor.id === person.id && !person.isActive) throw invalid('isActive', 'you work here: somebody else ends that')
  const changed = await updatePerson(db, person)
  if (!changed)
    throw new Refusal('conflict', `${was.name} was changed in between; load it again and repeat`, { current: was })
  // What they may is another thing now, or nothing: they sign in anew.
  if (!changed.isActive || changed.role !== was.role)
    await deleteSessionsOf(db, person.id, changed.isActive ? actor.session?.id : undefined)
  record({ kind: 'person', subject: String(person.id), verb: 'changed', detail: { was, is: changed } })
  return changed
}
