import { cpSync, existsSync, mkdirSync, readFileSync, renameSync, rmSync } from 'node:fs'
import { open, readdir, stat } from 'node:fs/promises'
import { join } from 'node:path'
import { brotliDecompressSync } from 'node:zlib'
import { PGlite } from '@electric-sql/pglite'
import { sql } from 'drizzle-orm'
import { drizzle, type PgliteDatabase } from 'drizzle-orm/pglite'
import { migrate } from 'drizzle-orm/pglite/migrator'
import { NotReady, type OpenDatabase } from './database.ts'
import { lockDirectory } from './lockDirectory.ts'
import { othersTurn } from './othersTurn.ts'
import { MIGRATIONS, schemaStep, TEMPLATE } from './paths.ts'
import * as schema from './schema.ts'
import { assertNotNewer, stepsTaken } from './steps.ts'

/** An empty database cluster, small buffers and log: loading it is much quicker than building one. */
function template(): Blob {
  return new Blob([new Uint8Array(brotliDecompressSync(readFileSync(TEMPLATE)))])
}

type Drizzled = PgliteDatabase<typeof schema>

interface Cluster {
  client: PGlite
  db: Drizzled
}

/** Opens a cluster as it is, or an empty one. */
async function start(folder: string | undefined): Promise<Cluster> {
  if (folder) mkdirSync(folder, { recursive: true })
  const isNew = !folder || !existsSync(join(folder, 'PG_VERSION'))
  const client = await PGlite.create({
    ...(folder ? { dataDir: folder } : {}),
    ...(isNew ? { loadDataDir: template() } : {}),
  })
  return { client, db: drizzle(client, { schema }) }
}

/** Where copies of a directory lie that are made before its schema takes a step. */
export const BACKUPS = 'backups'

/**
 * Opens a cluster and brings its schema up to date. Before that, what is there is copied as it is, closed.
 * @throws CannotOpen for one of a newer program
 */
async function openCluster(directory: string | undefined): Promise<Cluster> {
  const folder = directory && join(directory, 'database')
  let cluster = await start(folder)
  const taken = await stepsTaken(cluster.db)
  try {
    assertNotNewer(taken, `The data directory ${directory}`)
    if (directory && folder && taken > 0 && taken < schemaStep()) {
      await cluster.client.close()
      const stamp = new Date().toISOString().replace(/[:.]/g, '-')
      cpSync(folder, join(directory, BACKUPS, `before-step-${taken + 1}-${stamp}`), { recursive: true })
      cluster = await start(folder)
    }
    await migrate(cluster.db, { migrationsFolder: MIGRATIONS })
    return cluster
  } catch (error) {
    await cluster.client.close().catch(() => {})
    throw error
  }
}

/**
 * Opens (or makes) a house's database in a directory, or in memory without one.
 * @throws DirectoryInUse when another process has it open, CannotOpen when a newer program wrote it
 */
export async function openPglite(directory?: string): Promise<OpenDatabase> {
  const release = directory === undefined ? undefined : await lockDirectory(directory)
  const folder = directory && join(directory, 'database')
  let cluster: Cluster
  try {
    cluster = await openCluster(directory)
  } catch (error) {
    await release?.()
    throw error
  }
  let isTaking = true
  let isClosed = false
  let why = 'the house is closing'

  const checkpoint = async () => {
    // The pages first, so that the checkpoint never names pages that are not on disk yet.
    if (folder) await syncChanged(folder)
    await cluster.db.execute(sql`checkpoint`)
    if (folder) await syncChanged(folder)
  }
  return {
    get db() {
      if (!isTaking) throw new NotReady(why)
      return cluster.db
    },
    kind: 'pglite',
    place: directory === undefined ? undefined : { directory },
    get isTaking() {
      return isTaking
    },
    stopTaking: () => {
      isTaking = false
    },
    makeDurable: async () => {
      if (folder) await syncChanged(join(folder, 'pg_wal'))
    },
    maintain: async () => {
      await checkpoint()
      // It shares its memory with everybody else's work, and never gives back what it once took.
      await cluster.db.execute(sql`set maintenance_work_mem = '4MB'`)
      await cluster.db.execute(sql`set default_statistics_target = 20`)
      // Table by table: a large one takes a second in which nobody else is answered, all of them together many.
      for (const { table, columns } of await tablesOf(cluster.db)) {
        const names = sql.join(columns.map(sql.identifier), sql`, `)
        await cluster.db.execute(sql`vacuum analyze ${sql.identifier(table)} (${names})`)
        await othersTurn()
      }
    },
    swapIn: async (other) => {
      if (!directory || !folder) throw new Error('bug: what is in memory has no directory to swap')
      why = 'another house is being put in place; try again in a moment'
      isTaking = false
      try {
        await cluster.client.close()
        const old = join(directory, 'database.old')
        rmSync(old, { recursive: true, force: true })
        renameSync(folder, old)
        renameSync(join(other, 'database'), folder)
        cluster = await openCluster(directory)
        rmSync(old, { recursive: true, force: true })
      } finally {
        isTaking = true
        why = 'the house is closing'
      }
    },
    close: async () => {
      if (isClosed) return
      isClosed = true
      isTaking = false
      await checkpoint()
      await cluster.client.close()
      if (folder) await syncChanged(folder)
      await release?.()
    },
  }
}

/** Every table with the columns that it is asked by: to count what stands in documents takes seconds, and tells nothing. */
async function tablesOf(db: Drizzled): Promise<{ table: string; columns: string[] }[]> {
  const { rows } = await db.execute<{ table: string; columns: string[] }>(
    sql`select table_name as table, array_agg(column_name::text) filter (where data_type <> 'jsonb') as columns
        from information_schema.columns where table_schema = 'public' group by table_name order by table_name`,
  )
  return rows
}

const syncedAtMs = new Map<string, number>()

/** How many files are flushed at once: the disk joins what comes together. */
const FLUSHED_AT_ONCE = 16

/** Flushes every file below a folder that was written since we last did, without holding up requests. */
async function syncChanged(folder: string): Promise<void> {
  const entries = await readdir(folder, { withFileTypes: true, recursive: true })
  const paths = entries.filter((e) => e.isFile()).map((e) => join(e.parentPath, e.name))
  for (let i = 0; i < paths.length; i += FLUSHED_AT_ONCE) {
    await Promise.all(paths.slice(i, i + FLUSHED_AT_ONCE).map(syncFile))
  }
}

async function syncFile(path: string): Promise<void> {
  // A file may have gone since it was listed: then there is nothing to keep.
  const changedAtMs = (await stat(path).catch(() => undefined))?.mtimeMs
  if (changedAtMs === undefined || syncedAtMs.get(path) === changedAtMs) return
  const file = await open(path, 'r').catch(() => undefined)
  if (!file) return
  try {
    await file.datasync()
    syncedAtMs.set(path, changedAtMs)
  } finally {
    await file.close()
  }
}
