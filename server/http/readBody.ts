import type { Context } from 'hono'
import { bodyLimit } from 'hono/body-limit'
import type { z } from 'zod'
import { firstBadText } from '../errors/badText.ts'
import { describeIssues } from '../errors/describeIssues.ts'
import { Refusal } from '../errors/Refusal.ts'

export const MOST_BODY_BYTES = 1_000_000

/** What is thrown away of a body that is refused: whoever is still sending it can then hear why. */
const MOST_DRAINED_BYTES = 256 * 1024 ** 2
const DRAIN_WITHIN_MS = 15_000

/** Reads the rest of a body and forgets it, within reason. */
export async function drain(body: ReadableStream<Uint8Array> | null | undefined): Promise<void> {
  if (!body || body.locked) return
  const reader = body.getReader()
  const until = Date.now() + DRAIN_WITHIN_MS
  try {
    for (let bytes = 0; bytes < MOST_DRAINED_BYTES && Date.now() < until; ) {
      const { done, value } = await reader.read()
      if (done) return
      bytes += value.byteLength
    }
    await reader.cancel()
  } catch {
    // The one who sent it is gone.
  } finally {
    reader.releaseLock()
  }
}

/** Keeps a body that is larger from being read. */
export const limitBody = (mostBytes: number) =>
  bodyLimit({
    maxSize: mostBytes,
    onError: () => {
      throw new Refusal('tooLarge', `the body is more than ${mostBytes} bytes; send less`)
    },
  })

async function readText(c: Context): Promise<string> {
  const bytes = await c.req.arrayBuffer()
  try {
    return new TextDecoder('utf-8', { fatal: true }).decode(bytes)
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
export async function readBody<T extends z.ZodType>(c: Context, schema: T): Promise<z.output<T>> {
  const type = c.req.header('content-type') ?? ''
  if (!/^application\/(?:[a-z.+-]+\+)?json\b/i.test(type)) {
    throw new Refusal('wrongType', `the content type is “${type.slice(0, 100)}”; send application/json`)
  }
  const text = await readText(c)
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

/** A refusal says what is wrong with so many fields. */
const MOST_FIELDS = 100

/** Checks a value against a schema. @throws Refusal `invalid` naming the fields */
export function check<T extends z.ZodType>(schema: T, sent: unknown): z.output<T> {
  const parsed = schema.safeParse(sent)
  if (parsed.success) return parsed.data
  const fields = describeIssues(parsed.error, sent)
  const [first] = fields
  const detail = first ? `${first.field || 'the body'}: ${first.message}` : 'something is not allowed'
  const more = fields.length > 1 ? ` (and ${fields.length - 1} more)` : ''
  throw new Refusal('invalid', detail + more, { fields: fields.slice(0, MOST_FIELDS) })
}
