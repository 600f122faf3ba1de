export { CannotOpen, type Database, NotReady, type OpenDatabase } from './database.ts'
export { DirectoryInUse } from './lockDirectory.ts'
export { BACKUPS, openPglite } from './openPglite.ts'
export { openPostgres } from './openPostgres.ts'
