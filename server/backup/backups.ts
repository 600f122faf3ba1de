/** Back-ups that the house makes by itself: one a night, dated, kept for so many days. */

import { createWriteStream, mkdirSync } from 'node:fs'
import { open, readdir, rename, rm } from 'node:fs/promises'
import { join } from 'node:path'
import { Readable } from 'node:stream'
import { pipeline } from 'node:stream/promises'
import { createGzip } from 'node:zlib'
import { clockOf, daysBetween, nightOf } from '@conch/core/calendar'
import { writeCopy } from '../copy/writeCopy.ts'
import { BACKUPS, type OpenDatabase } from '../database/index.ts'
import { house } from '../database/schema.ts'

/** Until the house says otherwise. */
export const KEPT_DAYS = 14

const NAME = /^house-(\d{4}-\d{2}-\d{2})\.ndjson\.gz$/

/** Makes the entry of a file in its folder safe against a power cut, too. */
async function flushFolder(folder: string): Promise<void> {
  const handle = await open(folder, 'r')
  try {
    await handle.sync()
  } finally {
    await handle.close()
  }
}

/** Writes a copy, packed: complete and flushed to the disk, or not at all. */
export async function writeBackup(database: OpenDatabase, path: string): Promise<void> {
  const part = `${path}.part`
  try {
    await pipeline(Readable.from(writeCopy(database.db)), createGzip(), createWriteStream(part))
    const handle = await open(part, 'r+')
    try {
      await handle.sync()
    } finally {
      await handle.close()
    }
    await rename(part, path)
  } catch (error) {
    await rm(part, { force: true })
    throw error
  }
}

/**
 * Makes tonight's back-up when there is none yet, and takes away those that are older than the house keeps them.
 * @returns the new file; undefined when there was nothing to do
 */
export async function backUpTonight(database: OpenDatabase, directory: string, now: Date): Promise<string | undefined> {
  const [row] = await database.db.select().from(house)
  if (!row) return undefined
  const folder = join(directory, BACKUPS)
  mkdirSync(folder, { recursive: true })
  const tonight = nightOf(now, clockOf(row.settings))
  const files = await readdir(folder)
  const keptDays = row.settings.keepBackupsDays ?? KEPT_DAYS
  for (const file of files) {
    const day = NAME.exec(file)?.[1]
    if (day !== undefined && daysBetween(day, tonight) >= keptDays) await rm(join(folder, file), { force: true })
  }
  const name = `house-${tonight}.ndjson.gz`
  if (files.includes(name)) return undefined
  const path = join(folder, name)
  await writeBackup(database, path)
  await flushFolder(folder)
  return path
}
