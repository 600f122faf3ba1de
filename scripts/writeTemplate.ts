/** Makes the empty database cluster that first starts load, with small buffers and a small log. Run once per PGlite version. */

import { writeFileSync } from 'node:fs'
import { brotliCompressSync, constants } from 'node:zlib'
import { PGlite } from '@electric-sql/pglite'
import { TEMPLATE } from '../server/database/paths.ts'

const client = await PGlite.create()
// Each alone: ALTER SYSTEM refuses to share a transaction.
for (const setting of ["shared_buffers = '16MB'", "max_wal_size = '64MB'", "min_wal_size = '32MB'"]) {
  await client.query(`alter system set ${setting}`)
}
await client.query('checkpoint')
const tar = Buffer.from(await (await client.dumpDataDir('none')).arrayBuffer())
await client.close()
const params = { [constants.BROTLI_PARAM_QUALITY]: 10, [constants.BROTLI_PARAM_LGWIN]: 24 }
writeFileSync(TEMPLATE, brotliCompressSync(tar, { params }))
