/** Whether two documents say the same: by what they hold, never by how it is put into words. */

type Plain = Record<string, unknown>

export const isRecord = (value: unknown): value is Plain =>
  typeof value === 'object' && value !== null && !Array.isArray(value)

/**
 * Structural equality of plain data. The order of keys does not count (a database may turn them
 * about), the order of a list does; a key that holds undefined is a key that is not there.
 */
export function isSame(a: unknown, b: unknown): boolean {
  if (Object.is(a, b)) return true
  if (Array.isArray(a) && Array.isArray(b)) return a.length === b.length && a.every((x, i) => isSame(x, b[i]))
  if (!isRecord(a) || !isRecord(b)) return false
  const keys = new Set([...Object.keys(a), ...Object.keys(b)])
  return [...keys].every((key) => isSame(a[key], b[key]))
}
