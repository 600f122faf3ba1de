/**
 * Writes a data directory of the demo house, as this commit makes it, into the test fixtures: run
 * once after each new migration, so that a test can open what older commits made.
 */

import { mkdtempSync, readdirSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { brotliCompressSync, constants } from 'node:zlib'
import { houseFileSchema } from '@conch/contract'
import { PGlite } from '@electric-sql/pglite'
import { NOBODY } from '../server/access/actor.ts'
import { openPglite } from '../server/database/index.ts'
import { DEMO, MIGRATIONS } from '../server/database/paths.ts'
import { inWrite } from '../server/events/index.ts'
import { importHouseFile } from '../server/features/transfer/importHouseFile.ts'
import { readHouseFolder } from '../server/readHouseFolder.ts'

const directory = mkdtempSync(join(tmpdir(), 'conch-fixture-'))
const database = await openPglite(directory)
const now = () => new Date('2026-09-01T12:00:00Z')
const file = houseFileSchema.parse(readHouseFolder(DEMO, now()))
await inWrite(database, { actor: NOBODY, now }, (write) => importHouseFile(file, { isDemo: true }, write))
await database.close()
const client = await PGlite.create(join(directory, 'database'))
const tar = Buffer.from(await (await client.dumpDataDir('none')).arrayBuffer())
await client.close()
rmSync(directory, { recursive: true })
const step = readdirSync(MIGRATIONS).filter((f) => f.endsWith('.sql')).length
const packed = brotliCompressSync(tar, {
  params: { [constants.BROTLI_PARAM_QUALITY]: 10, [constants.BROTLI_PARAM_LGWIN]: 24 },
})
writeFileSync(
  join(import.meta.dirname, `../server/test/fixtures/demo-after-${String(step).padStart(4, '0')}.tar.br`),
  packed,
)
