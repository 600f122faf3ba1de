import { drizzle } from 'drizzle-orm/node-postgres'
import { migrate } from 'drizzle-orm/node-postgres/migrator'
import pg from 'pg'
import type { OpenDatabase } from './database.ts'
import { MIGRATIONS } from './paths.ts'
import * as schema from './schema.ts'

/** One number for all our processes: only one of them migrates at a time. */
const MIGRATION_LOCK = 46_004_600

/** Opens a database on a PostgreSQL server (15 or newer), which does its own syncing and cleaning. */
export async function openPostgres(url: string): Promise<OpenDatabase> {
  const pool = new pg.Pool({ connectionString: url, max: 10 })
  // An idle connection that breaks must not end the process; the next query gets a new one.
  pool.on('error', () => {})
  const client = await pool.connect()
  try {
    await client.query('select pg_advisory_lock($1)', [MIGRATION_LOCK])
    await migrate(drizzle(client, { schema }), { migrationsFolder: MIGRATIONS })
    await client.query('select pg_advisory_unlock($1)', [MIGRATION_LOCK])
  } finally {
    client.release()
  }
  return {
    db: drizzle(pool, { schema }),
    kind: 'postgresql',
    makeDurable: async () => {},
    maintain: async () => {},
    close: () => pool.end(),
  }
}
