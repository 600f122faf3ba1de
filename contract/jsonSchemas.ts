import { drinkDocumentSchema } from '@conch/core/drink/schema'
import { z } from 'zod'
import { houseFileSchema } from './houseFile.ts'

/** The open formats as JSON Schemas, by file name in docs/. */
export function jsonSchemas(): Record<string, object> {
  return {
    'drink.schema.json': z.toJSONSchema(drinkDocumentSchema, { io: 'input' }),
    'house.schema.json': z.toJSONSchema(houseFileSchema, { io: 'input' }),
  }
}
