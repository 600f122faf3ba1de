import { z } from 'zod'
import { textSchema } from './primitives.ts'

/** Something that happened to a thing of history after it was written: when, by whom, and what. */
export const happenedSchema = <E extends z.ZodType>(event: E) => z.object({ at: z.string(), by: textSchema(80), event })
