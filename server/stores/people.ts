import type { Person, Role } from '@conch/contract'
import { and, asc, eq, sql } from 'drizzle-orm'
import type { Database } from '../database/index.ts'
import { people } from '../database/schema.ts'

/** Everybody who works or worked here, in the order in which they came. */
export async function loadPeople(db: Database): Promise<Person[]> {
  return db.select().from(people).orderBy(asc(people.id))
}

export async function findPerson(db: Database, id: number): Promise<Person | undefined> {
  const [row] = await db.select().from(people).where(eq(people.id, id))
  return row
}

/** @returns undefined when the name is taken */
export async function insertPerson(db: Database, person: { name: string; role: Role }): Promise<Person | undefined> {
  const [row] = await db.insert(people).values(person).onConflictDoNothing().returning()
  return row
}

/** @returns undefined when another revision stands there */
export async function updatePerson(db: Database, { id, revision, ...person }: Person): Promise<Person | undefined> {
  const [row] = await db
    .update(people)
    .set({ ...person, revision: sql`${people.revision} + 1` })
    .where(and(eq(people.id, id), eq(people.revision, revision)))
    .returning()
  return row
}

/**
 * The ids of people by their names, for history that knows only names: who is not there yet comes in.
 * @param names in the order in which newcomers get their ids
 */
export async function peopleNamed(db: Database, names: readonly string[]): Promise<Map<string, number>> {
  const wanted = [...new Set(names)].filter((name) => name !== '')
  for (const name of wanted) await insertPerson(db, { name, role: roleNamed(name) })
  return new Map((await loadPeople(db)).map((p) => [p.name, p.id]))
}

/** Who is called like a role had it; anybody else may least until somebody says more. */
const roleNamed = (name: string): Role => {
  const lower = name.toLowerCase()
  return lower === 'manager' || lower === 'lead' ? lower : 'bartender'
}
