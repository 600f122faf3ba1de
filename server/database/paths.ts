import { existsSync, readFileSync } from 'node:fs'
import { dirname, join } from 'node:path'
import { fileURLToPath } from 'node:url'

/** The server's folder, whether this runs from source or from the built file in `dist`. */
function serverRoot(): string {
  let folder = dirname(fileURLToPath(import.meta.url))
  while (!existsSync(join(folder, 'drizzle.config.ts'))) {
    const above = dirname(folder)
    if (above === folder) throw new Error('the server folder with its migrations was not found')
    folder = above
  }
  return folder
}

export const SERVER_ROOT = serverRoot()
export const MIGRATIONS = join(SERVER_ROOT, 'database/migrations')
export const TEMPLATE = join(SERVER_ROOT, 'database/template/empty.tar.br')
export const WEB_DIST = join(SERVER_ROOT, '../web/dist')
export const DEMO = join(SERVER_ROOT, '../demo')

/** How many steps the schema of this program has taken. */
export function schemaStep(): number {
  const journal: { entries: unknown[] } = JSON.parse(readFileSync(join(MIGRATIONS, 'meta/_journal.json'), 'utf8'))
  return journal.entries.length
}
