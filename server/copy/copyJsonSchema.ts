import { z } from 'zod'
import { footSchema, headSchema } from './format.ts'
import { COPIED } from './tables.ts'

/** The JSON Schema of one line of a copy: its head, a row of one of the tables, or its foot. */
export function copyJsonSchema(): object {
  const rows = COPIED.map(({ name, row }) => z.object({ table: z.literal(name), row }).strict())
  return z.toJSONSchema(z.union([headSchema, ...rows, footSchema]), { io: 'input', unrepresentable: 'any' })
}
