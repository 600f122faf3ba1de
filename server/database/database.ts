import type { PgDatabase, PgQueryResultHKT } from 'drizzle-orm/pg-core'
import type * as schema from './schema.ts'

/** Drizzle over PGlite or node-postgres; a transaction of either is one, too. */
export type Database = PgDatabase<PgQueryResultHKT, typeof schema>

/** An open database and its life. */
export interface OpenDatabase {
  db: Database
  kind: 'pglite' | 'postgresql'
  /** Call after a write, before saying that it is saved. */
  makeDurable(): Promise<void>
  /** Checkpoint and clean up; called now and then, and on close. */
  maintain(): Promise<void>
  close(): Promise<void>
}
