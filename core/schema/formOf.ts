/**
 * The form of a document without today's rules about it: the same fields and kinds of values, but no
 * limits, no patterns and nothing that must fit together. What was valid when it was written has this form
 * for ever, however the rules change; what nobody finished yet has it, too.
 */

import { z } from 'zod'

interface Def {
  type: string
  shape: Record<string, z.ZodType>
  element: z.ZodType
  innerType: z.ZodType
  in: z.ZodType
  keyType: z.ZodType
  valueType: z.ZodType
  options: z.ZodType[]
  items: z.ZodType[]
  defaultValue: unknown
  format?: string
}
const defOf = (schema: z.ZodType) => (schema as unknown as { _zod: { def: Def } })._zod.def

const known = new WeakMap<z.ZodType, z.ZodType>()

/** Unknown keys are left out, as their fields are not today's; defaults fill what was not there yet. */
export function formOf<T>(schema: z.ZodType<T>): z.ZodType<T> {
  const made = known.get(schema) ?? build(schema)
  known.set(schema, made)
  return made as z.ZodType<T>
}

function build(schema: z.ZodType): z.ZodType {
  const def = defOf(schema)
  switch (def.type) {
    case 'object':
      return z.object(Object.fromEntries(Object.entries(def.shape).map(([key, inner]) => [key, formOf(inner)])))
    case 'array':
      return z.array(formOf(def.element))
    case 'tuple':
      return z.tuple(def.items.map((item) => formOf(item)) as [z.ZodType, ...z.ZodType[]])
    case 'record':
      return z.record(z.string(), formOf(def.valueType))
    case 'optional':
      return formOf(def.innerType).optional()
    case 'nullable':
      return formOf(def.innerType).nullable()
    case 'default':
      // A default is made anew at each reading: what is written into one must not reach the next.
      return formOf(def.innerType).default(() => JSON.parse(JSON.stringify(def.defaultValue)) as never)
    case 'pipe':
      return formOf(def.in)
    case 'union':
      return z.union(def.options.map((option) => formOf(option)) as [z.ZodType, ...z.ZodType[]])
    case 'number':
      return z.number()
    case 'string':
      return z.string()
    default:
      // Words of closed lists, literals, yes or no: they are what they are.
      return schema
  }
}
