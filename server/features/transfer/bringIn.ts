import { createReadStream } from 'node:fs'
import { readFile } from 'node:fs/promises'
import { createInterface } from 'node:readline'
import { createGunzip } from 'node:zlib'
import { type HouseFile, houseFileSchema } from '@conch/contract'
import { formOf, NewerFormat, upcast } from '@conch/core/schema'
import { NOBODY } from '../../access/actor.ts'
import { COPY_FORMAT } from '../../copy/format.ts'
import { type CopyOptions, readCopy, refuseCopy } from '../../copy/readCopy.ts'
import type { OpenDatabase } from '../../database/index.ts'
import { Refusal } from '../../errors/Refusal.ts'
import { translateDatabaseError } from '../../errors/translateDatabaseError.ts'
import { verifyEditions } from '../../events/verify.ts'
import { inWrite, waitForWrites } from '../../events/write.ts'
import { check } from '../../http/readBody.ts'
import { isSetUp } from '../../stores/house.ts'
import { type CameIn, importHouseFile } from './importHouseFile.ts'

/** What came in, and what of it does not follow from what it says. */
export interface BroughtIn extends CameIn {
  /** Figures of editions that do not follow from their own locks. */
  remarks: string[]
}

const linesOf = (path: string) => {
  const file = createReadStream(path)
  return createInterface({
    input: path.endsWith('.gz') ? file.pipe(createGunzip()) : file,
    crlfDelay: Number.POSITIVE_INFINITY,
  })
}

async function firstLine(path: string): Promise<string> {
  for await (const line of linesOf(path)) return line
  return refuseCopy(1, 'the file is empty')
}

const isCopy = (line: string) => line.startsWith('{') && line.includes(`"${COPY_FORMAT}"`)

/**
 * Brings a house in from a file into an empty one: a copy, line by line; or a single house file of before. All of it or
 * nothing.
 * @throws Refusal naming the line or the field, and the reason
 */
export async function bringIn(
  database: OpenDatabase,
  path: string,
  { now, ...options }: CopyOptions & { now: () => Date },
): Promise<BroughtIn> {
  const came = await bringEither(database, path, { now, ...options }).catch((error: unknown) => {
    throw translateDatabaseError(error) ?? error
  })
  const remarks: string[] = []
  for await (const { name, problems } of verifyEditions(database.db))
    for (const p of problems) remarks.push(`edition “${name}”: ${p} does not follow from what it froze`)
  return { ...came, remarks: remarks.slice(0, 50) }
}

async function bringEither(
  database: OpenDatabase,
  path: string,
  { now, ...options }: CopyOptions & { now: () => Date },
): Promise<CameIn> {
  if (isCopy(await firstLine(path))) return bringCopy(database, path, options)
  const file = await readHouseFile(path)
  return inWrite(database, { actor: NOBODY, now }, (write) => importHouseFile(file, { isDemo: false }, write))
}

async function bringCopy({ db }: OpenDatabase, path: string, options: CopyOptions): Promise<CameIn> {
  return db.transaction(async (tx) => {
    await waitForWrites(tx)
    if (await isSetUp(tx)) throw new Refusal('exists', 'this house is set up already; import into an empty one')
    const { counts } = await readCopy(tx, linesOf(path), options)
    return { drinks: counts.drinks ?? 0, versions: counts.versions ?? 0, editions: counts.editions ?? 0 }
  })
}

/** A single house file, its older locks brought up to today's format. @throws Refusal */
async function readHouseFile(path: string): Promise<HouseFile> {
  let file: unknown
  try {
    file = JSON.parse(await readFile(path, 'utf8'))
  } catch (cause) {
    throw new Refusal('malformedJson', `it is neither a copy nor a house file: ${(cause as Error).message}`, { cause })
  }
  try {
    return check(formOf(houseFileSchema), bringUp(file))
  } catch (error) {
    if (error instanceof NewerFormat) throw new Refusal('invalid', error.message, { cause: error })
    throw error
  }
}

function bringUp(file: unknown): unknown {
  if (typeof file !== 'object' || file === null || !('editions' in file) || !Array.isArray(file.editions)) return file
  const editions = file.editions.map((e) => (e?.lock ? { ...e, lock: upcast('edition-lock', e.lock) } : e))
  return { ...file, editions }
}
