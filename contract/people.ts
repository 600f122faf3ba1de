import { nameSchema } from '@conch/core/house/schema'
import { keysOf } from '@conch/core/schema/keysOf'
import { z } from 'zod'
import { ROLES } from './roles.ts'

export const roleSchema = z.enum(keysOf(ROLES))

export const personSchema = z.object({
  id: z.number().int().min(1),
  name: nameSchema,
  role: roleSchema,
  /** Whether they still work here. */
  isActive: z.boolean(),
  revision: z.number().int().min(1),
})
export type Person = z.infer<typeof personSchema>

export const makePersonSchema = z.strictObject({
  name: nameSchema,
  role: roleSchema,
  /** Their first PIN or passphrase; left out, they cannot sign in yet. */
  secret: z.string().min(1, 'say it').max(200).optional(),
})
export const changePersonSchema = z
  .object({ name: nameSchema, role: roleSchema, isActive: z.boolean(), revision: z.number().int().min(1) })
  .strict()
