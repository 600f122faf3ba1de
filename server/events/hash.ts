import { createHash, randomBytes } from 'node:crypto'
import canonicalize from 'canonicalize'

/** SHA-256 of a value's canonical JSON (RFC 8785) and more text behind it, as hex. */
export function hashOf(value: unknown, behind = ''): string {
  const text = canonicalize(value)
  if (text === undefined) throw new Error('bug: only what is JSON can be hashed')
  return createHash('sha256').update(text).update(behind).digest('hex')
}

/** Secret, and new for every event: whoever sees only hashes cannot try formulas until one fits. */
export const newSalt = (): string => randomBytes(16).toString('hex')
