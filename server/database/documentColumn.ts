import { formOf, upcast } from '@conch/core/schema'
import { customType } from 'drizzle-orm/pg-core'
import type { z } from 'zod'

/** What is stored and cannot be read: the table's column and the place in it. A fault of ours, or of who wrote there by hand. */
export class UnreadableDocument extends Error {}

/**
 * A JSON column that is parsed when it is read: by the form of its schema, which history keeps for ever, and brought up
 * to today's format. Stored as it is given.
 * @param format the name of its format, where its documents carry a version
 */
export function document<T>(name: string, schema: z.ZodType<T>, format?: Parameters<typeof upcast>[0]) {
  const form = formOf(schema)
  return customType<{ data: T; driverData: unknown }>({
    dataType: () => 'jsonb',
    toDriver: (value) => JSON.stringify(value),
    fromDriver: (value) => {
      const stored = typeof value === 'string' ? JSON.parse(value) : value
      const read = form.safeParse(format ? upcast(format, stored) : stored)
      if (read.success) return read.data
      const [issue] = read.error.issues
      throw new UnreadableDocument(
        `what is stored under “${name}” cannot be read at ${issue?.path.join('.')}: ${issue?.message}`,
      )
    },
  })(name)
}
