import type { Context } from 'hono'
import type { z } from 'zod'
import { describeIssues } from './describeIssues.ts'
import { Refusal } from './Refusal.ts'

export const MOST_BODY_BYTES = 1_000_000

/** Text that PostgreSQL's jsonb cannot hold: the character NUL and halves of surrogate pairs. */
function firstBadText(value: unknown, path: string): string | undefined {
  if (typeof value === 'string') return value.includes('\u0000') || !value.isWellFormed() ? path : undefined
  if (typeof value !== 'object' || value === null) return undefined
  for (const [key, inner] of Object.entries(value)) {
    const here = path === '' ? key : `${path}.${key}`
    const bad = key.includes('\u0000') || !key.isWellFormed() ? path : firstBadText(inner, here)
    if (bad !== undefined) return bad
  }
  return undefined
}

/** Reads at most so many bytes, and stops reading where it is more. */
async function readText(c: Context, mostBytes: number): Promise<string> {
  const tooLarge = () => new Refusal('tooLarge', `the body is more than ${mostBytes} bytes; send less`)
  const declared = Number(c.req.header('content-length') ?? 0)
  if (declared > mostBytes) throw tooLarge()
  const reader = c.req.raw.body?.getReader()
  if (!reader) return ''
  const chunks: Uint8Array[] = []
  let bytes = 0
  for (;;) {
    const { done, value } = await reader.read()
    if (done) break
    bytes += value.byteLength
    if (bytes > mostBytes) {
      await reader.cancel()
      throw tooLarge()
    }
    chunks.push(value)
  }
  try {
    return new TextDecoder('utf-8', { fatal: true }).decode(Buffer.concat(chunks))
  } catch (cause) {
    throw new Refusal('malformedJson', 'the body is not UTF-8 text', { cause })
  }
}

/** How deep a body may nest: a deeper one is an attack on the parser, not a drink. */
const MOST_DEPTH = 60

function isTooDeep(value: unknown, left: number): boolean {
  if (typeof value !== 'object' || value === null) return false
  if (left === 0) return true
  return Object.values(value).some((inner) => isTooDeep(inner, left - 1))
}

/** The checked body of a request. @throws Refusal naming every field that is wrong */
export async function readBody<T extends z.ZodType>(
  c: Context,
  schema: T,
  mostBytes = MOST_BODY_BYTES,
): Promise<z.output<T>> {
  const type = c.req.header('content-type') ?? ''
  if (!/^application\/(?:[a-z.+-]+\+)?json\b/i.test(type)) {
    throw new Refusal('wrongType', `the content type is “${type}”; send application/json`)
  }
  const text = await readText(c, mostBytes)
  let sent: unknown
  try {
    sent = JSON.parse(text)
  } catch (cause) {
    throw new Refusal('malformedJson', `the body is not JSON: ${(cause as Error).message}`, { cause })
  }
  if (isTooDeep(sent, MOST_DEPTH)) throw new Refusal('invalid', `the body nests deeper than ${MOST_DEPTH} levels`)
  const bad = firstBadText(sent, '')
  if (bad !== undefined) {
    const message = 'holds a character that cannot be stored (NUL or half a surrogate pair)'
    throw new Refusal('invalid', `${bad || 'the body'} ${message}`, { fields: [{ field: bad, message }] })
  }
  return check(schema, sent)
}

/** Checks a value against a schema. @throws Refusal `invalid` naming every field */
export function check<T extends z.ZodType>(schema: T, sent: unknown): z.output<T> {
  const parsed = schema.safeParse(sent)
  if (parsed.success) return parsed.data
  const fields = describeIssues(parsed.error, sent)
  const [first] = fields
  const detail = first ? `${first.field || 'the body'}: ${first.message}` : 'something is not allowed'
  const more = fields.length > 1 ? ` (and ${fields.length - 1} more)` : ''
  throw new Refusal('invalid', detail + more, { fields })
}
