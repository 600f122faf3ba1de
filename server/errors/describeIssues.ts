import type { FieldProblem } from '@conch/contract'
import type { z } from 'zod'

type Issue = z.core.$ZodIssue

const quoted = (values: readonly unknown[]) => values.map((v) => String(v)).join(', ')

/** The value that stands at a path of what was sent, in a few characters, or undefined. */
function valueAt(sent: unknown, path: readonly PropertyKey[]): string | undefined {
  let value = sent
  for (const key of path) {
    if (typeof value !== 'object' || value === null) return undefined
    value = (value as Record<PropertyKey, unknown>)[key]
  }
  if (value === undefined || (typeof value === 'object' && value !== null)) return undefined
  const text = typeof value === 'string' ? `“${value}”` : String(value)
  return text.length > 60 ? `${text.slice(0, 57)}…` : text
}

/** What JSON calls its kinds of values, as people do. */
const KINDS: Record<string, string> = {
  string: 'a text',
  number: 'a number',
  int: 'a whole number',
  boolean: 'true or false',
  array: 'a list',
  object: 'an object',
  record: 'an object',
  null: 'null',
}

/** What is allowed there, as a phrase. */
function allowed(issue: Issue): string {
  switch (issue.code) {
    case 'too_big': {
      const most = issue.inclusive === false ? 'less than' : 'at most'
      if (issue.origin === 'string') return `is too long; at most ${issue.maximum} characters`
      if (issue.origin === 'array') return `has too many entries; at most ${issue.maximum}`
      return `is too large; ${most} ${issue.maximum}`
    }
    case 'too_small': {
      const least = issue.inclusive === false ? 'more than' : 'at least'
      if (issue.origin === 'string' || issue.origin === 'array') return issue.message
      return `is too small; ${least} ${issue.minimum}`
    }
    case 'invalid_value':
      return `is not one of ${quoted(issue.values)}`
    case 'invalid_type': {
      const kind = KINDS[issue.expected] ?? `a ${issue.expected}`
      return issue.input === undefined ? `is missing; ${kind} is needed` : `must be ${kind}`
    }
    case 'invalid_union':
      if (issue.discriminator === undefined) return issue.message
      return `is not one of ${quoted((issue as { options?: unknown[] }).options ?? [])}`
    case 'unrecognized_keys':
      return `has fields nobody knows: ${quoted(issue.keys)}`
    default:
      return issue.message
  }
}

/** Every problem of what was sent: where, the value found, what is allowed. */
export function describeIssues(error: z.ZodError, sent: unknown): FieldProblem[] {
  return error.issues.map((issue) => {
    const found = valueAt(sent, issue.path)
    const phrase = allowed({ ...issue, input: issue.input ?? found } as Issue)
    const isPhrase = /^(is|must|has) /.test(phrase)
    return {
      field: issue.path.map(String).join('.'),
      message: found !== undefined && isPhrase ? `${found} ${phrase}` : phrase,
    }
  })
}
