import type { PgDatabase, PgQueryResultHKT } from 'drizzle-orm/pg-core'
import type * as schema from './schema.ts'

/** Drizzle over PGlite or node-postgres; a transaction of either is one, too. */
export type Database = PgDatabase<PgQueryResultHKT, typeof schema>

/** An open database and its life. */
export interface OpenDatabase {
  /** @throws NotReady while it is closing, or another one is put in its place */
  readonly db: Database
  readonly kind: 'pglite' | 'postgresql'
  /** Where it is, for whoever opens it a second time; undefined in memory. */
  readonly place: { url: string } | { directory: string } | undefined
  /** Call after a write, before saying that it is saved. */
  makeDurable(): Promise<void>
  /** Checkpoint and clean up; called now and then, and on close. */
  maintain(): Promise<void>
  /** From now on nobody begins anything; what is under way goes on. */
  stopTaking(): void
  readonly isTaking: boolean
  close(): Promise<void>
  /** A server only: words for every process of the house, heard when the transaction ends well. */
  tell?(tx: Database, words: string): Promise<void>
  /**
   * A server only: hears what processes tell. A line that broke is taken up again by itself.
   * @param onWords called with `''` where some may have been missed
   * @returns ends it
   */
  hear?(onWords: (words: string) => void): () => Promise<void>
  /** Embedded only: the filled database of another directory takes the place of this one. */
  swapIn?(directory: string): Promise<void>
}

/** It cannot be asked just now. The message is for a person. */
export class NotReady extends Error {}

/** It cannot be opened; whoever starts it can mend that. The message is for a person, one line. */
export class CannotOpen extends Error {}
