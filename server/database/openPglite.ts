import { existsSync, mkdirSync, readFileSync } from 'node:fs'
import { open, readdir, stat } from 'node:fs/promises'
import { join } from 'node:path'
import { brotliDecompressSync } from 'node:zlib'
import { PGlite } from '@electric-sql/pglite'
import { sql } from 'drizzle-orm'
import { drizzle } from 'drizzle-orm/pglite'
import { migrate } from 'drizzle-orm/pglite/migrator'
import type { OpenDatabase } from './database.ts'
import { lockDirectory } from './lockDirectory.ts'
import { MIGRATIONS, TEMPLATE } from './paths.ts'
import * as schema from './schema.ts'

/** An empty database cluster, small buffers and log: loading it is much quicker than building one. */
function template(): Blob {
  return new Blob([new Uint8Array(brotliDecompressSync(readFileSync(TEMPLATE)))])
}

/**
 * Opens (or makes) a house's database in a directory, or in memory without one.
 * @throws DirectoryInUse when another process has it open
 */
export async function openPglite(directory?: string): Promise<OpenDatabase> {
  const release = directory === undefined ? undefined : await lockDirectory(directory)
  const clusterDirectory = directory && join(directory, 'database')
  try {
    if (clusterDirectory) mkdirSync(clusterDirectory, { recursive: true })
    const isNew = !clusterDirectory || !existsSync(join(clusterDirectory, 'PG_VERSION'))
    const client = await PGlite.create({
      ...(clusterDirectory ? { dataDir: clusterDirectory } : {}),
      ...(isNew ? { loadDataDir: template() } : {}),
    })
    const db = drizzle(client, { schema })
    await migrate(db, { migrationsFolder: MIGRATIONS })
    let isClosed = false

    const makeDurable = async () => {
      if (clusterDirectory) await syncChanged(join(clusterDirectory, 'pg_wal'))
    }
    const maintain = async () => {
      // The pages first, so that the checkpoint never names pages that are not on disk yet.
      if (clusterDirectory) await syncChanged(clusterDirectory)
      await db.execute(sql`checkpoint`)
      if (clusterDirectory) await syncChanged(clusterDirectory)
      await db.execute(sql`vacuum analyze`)
    }
    return {
      db,
      kind: 'pglite',
      makeDurable,
      maintain,
      close: async () => {
        if (isClosed) return
        isClosed = true
        await maintain()
        await client.close()
        if (clusterDirectory) await syncChanged(clusterDirectory)
        await release?.()
      },
    }
  } catch (error) {
    await release?.()
    throw error
  }
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
