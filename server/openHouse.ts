import { join, resolve } from 'node:path'
import { BACKUPS, CannotOpen, DirectoryInUse, type OpenDatabase, openPglite, openPostgres } from './database/index.ts'
import { SERVER_ROOT } from './database/paths.ts'

/** Something that the person who starts it can mend: shown as one line. */
export class SetUpProblem extends Error {}

/** Where data and back-ups are. */
export const dataDirectory = (): string => resolve(process.env.CONCH_DATA ?? join(SERVER_ROOT, '../data'))

/** The house's database, wherever the environment says it is. @throws with a message for a person */
export function openHouse(): Promise<OpenDatabase> {
  const url = process.env.DATABASE_URL
  return url ? openPostgres(url, join(dataDirectory(), BACKUPS)) : openPglite(dataDirectory())
}

/** One line for what a person can mend; the whole of it for a bug. */
export function endWith(error: unknown): never {
  const isPlain = error instanceof DirectoryInUse || error instanceof CannotOpen || error instanceof SetUpProblem
  console.error(isPlain ? error.message : error)
  process.exit(1)
}
