/** Writes the JSON Schemas of the open formats into docs/, from the same schemas that the server checks with. */

import { writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { jsonSchemas } from '../contract/jsonSchemas.ts'
import { copyJsonSchema } from '../server/copy/copyJsonSchema.ts'

for (const [file, schema] of Object.entries({ ...jsonSchemas(), 'copy.schema.json': copyJsonSchema() })) {
  writeFileSync(join(import.meta.dirname, '../docs', file), `${JSON.stringify(schema, null, 2)}\n`)
}
