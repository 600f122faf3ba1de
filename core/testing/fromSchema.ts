/** Documents made from a schema itself, so that a test of "every field" meets every field, new ones too. */

import type { z } from 'zod'

interface Def {
  type: string
  shape?: Record<string, z.ZodType>
  element?: z.ZodType
  innerType?: z.ZodType
  in?: z.ZodType
  keyType?: z.ZodType
  valueType?: z.ZodType
  options?: z.ZodType[]
  items?: z.ZodType[]
  entries?: Record<string, string>
  values?: unknown[]
  checks?: { _zod: { def: { check: string; value?: number; format?: string; pattern?: RegExp } } }[]
  format?: string
}
const defOf = (schema: z.ZodType) => (schema as unknown as { _zod: { def: Def } })._zod.def

/**
 * A value of a schema with every field there, optional ones too, and two members in every list. Refinements
 * across fields are not looked at: it need not pass them.
 * @param n tells values apart: another number, other words
 */
export function fullSample(schema: z.ZodType, n = 1): unknown {
  const def = defOf(schema)
  switch (def.type) {
    case 'object':
      return Object.fromEntries(
        Object.entries(def.shape ?? {}).map(([key, inner], i) => [key, fullSample(inner, n + i)]),
      )
    case 'array':
      return [1, 2].map((i) => fullSample(def.element as z.ZodType, n * 2 + i))
    case 'tuple':
      return (def.items ?? []).map((item, i) => fullSample(item, n + i))
    case 'record': {
      const keys = defOf(def.keyType as z.ZodType)
      const names = keys.type === 'enum' ? Object.values(keys.entries ?? {}) : ['one', 'two']
      return Object.fromEntries(names.map((key, i) => [key, fullSample(def.valueType as z.ZodType, n + i)]))
    }
    case 'optional':
    case 'default':
    case 'prefault':
    case 'nullable':
    case 'readonly':
      return fullSample(def.innerType as z.ZodType, n)
    case 'pipe':
      return fullSample(def.in as z.ZodType, n)
    case 'union':
      return fullSample(def.options?.[0] as z.ZodType, n)
    case 'literal':
      return def.values?.[0]
    case 'enum': {
      const values = Object.values(def.entries ?? {})
      return values[n % values.length]
    }
    case 'boolean':
      return n % 2 === 0
    case 'string':
      return def.format === 'date' ? `2026-0${1 + (n % 9)}-11` : `word-${n}`
    case 'number':
      return numberWithin(def, n)
    default:
      throw new Error(`a schema of type “${def.type}” cannot be sampled yet`)
  }
}

function numberWithin({ checks = [], format }: Def, n: number): number {
  const limits = checks.map((c) => c._zod.def)
  const low = Math.max(0, ...limits.flatMap((c) => (c.check === 'greater_than' ? (c.value ?? 0) : [])))
  const high = Math.min(1e6, ...limits.flatMap((c) => (c.check === 'less_than' ? (c.value ?? 0) : [])))
  const value = low + ((high - low) * (1 + (n % 7))) / 9
  const isInt = format === 'safeint' || limits.some((c) => c.format === 'safeint')
  return isInt ? Math.round(value) : Number(value.toPrecision(3))
}

/** One field of a document, changed. */
export interface Mutation {
  /** Where and how: "pours.0.amount.value changed". */
  name: string
  apply(document: unknown): unknown
}

type Path = (string | number)[]

function edited(value: unknown, path: Path, edit: (inner: unknown) => unknown): unknown {
  const [key, ...rest] = path
  if (key === undefined) return edit(value)
  if (Array.isArray(value)) return value.map((v, i) => (i === key ? edited(v, rest, edit) : v))
  const next = edited((value as Record<string, unknown>)[key], rest, edit)
  const { [key]: _, ...others } = value as Record<string, unknown>
  return next === undefined ? others : { ...others, [key]: next }
}

const other = (value: unknown): unknown => {
  if (typeof value === 'number') return value + 1
  if (typeof value === 'boolean') return !value
  return typeof value === 'string' ? `${value}-x` : value
}

/** Every change of one thing: each field changed, each left out, each list longer, shorter and turned about. */
export function everyMutation(document: unknown): Mutation[] {
  const mutations: Mutation[] = []
  const add = (path: Path, how: string, edit: (inner: unknown) => unknown) =>
    mutations.push({ name: `${path.join('.')} ${how}`, apply: (d) => edited(d, path, edit) })
  const walk = (value: unknown, path: Path) => {
    if (Array.isArray(value)) {
      add(path, 'turned about', (list) => [...(list as unknown[])].reverse())
      add(path, 'one shorter', (list) => (list as unknown[]).slice(1))
      add(path, 'empty', () => [])
      add(path, 'one doubled', (list) => [...(list as unknown[]), (list as unknown[])[0]])
      for (const [i, inner] of value.entries()) walk(inner, [...path, i])
    } else if (typeof value === 'object' && value !== null) {
      for (const [key, inner] of Object.entries(value)) {
        walk(inner, [...path, key])
        add([...path, key], 'left out', () => undefined)
      }
    } else add(path, 'changed', other)
  }
  walk(document, [])
  return mutations
}
