/** Text that PostgreSQL's jsonb cannot hold: the character NUL and halves of surrogate pairs. @returns where it stands */
export function firstBadText(value: unknown, path: string): string | undefined {
  if (typeof value === 'string') return value.includes('\u0000') || !value.isWellFormed() ? path : undefined
  if (typeof value !== 'object' || value === null) return undefined
  for (const [key, inner] of Object.entries(value)) {
    const here = path === '' ? key : `${path}.${key}`
    const bad = key.includes('\u0000') || !key.isWellFormed() ? path : firstBadText(inner, here)
    if (bad !== undefined) return bad
  }
  return undefined
}
