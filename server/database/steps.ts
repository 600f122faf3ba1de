import { sql } from 'drizzle-orm'
import { CannotOpen, type Database } from './database.ts'
import { schemaStep } from './paths.ts'

/** How many steps of the schema a database has taken; 0 for an empty one. */
export async function stepsTaken(db: Database): Promise<number> {
  const found = await db.execute(sql`select to_regclass('drizzle.__drizzle_migrations') is not null as is_there`)
  const [row] = (found as unknown as { rows: { is_there: boolean }[] }).rows
  if (!row?.is_there) return 0
  const counted = await db.execute(sql`select count(*)::int as n from drizzle.__drizzle_migrations`)
  return (counted as unknown as { rows: { n: number }[] }).rows[0]?.n ?? 0
}

/** @throws CannotOpen for a database of a newer program: this one would not know what it does to it */
export function assertNotNewer(taken: number, where: string): void {
  if (taken > schemaStep())
    throw new CannotOpen(
      `${where} was written by a newer Lazy Conch (step ${taken}; this one has ${schemaStep()}). Start that one, or restore an older copy elsewhere.`,
    )
}
