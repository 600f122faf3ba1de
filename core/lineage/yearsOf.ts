import { readWhen } from './readWhen.ts'
import type { VersionOrigin, Years } from './sourceSchema.ts'

/**
 * The years that a version belongs to: as somebody said them; as its words say; of what the house wrote itself, the year in
 * which it was saved. undefined: nobody knows. The day on which a book was read says nothing of the book.
 * @param savedAt ISO; its year is Greenwich's
 */
export function yearsOf({
  era,
  origin,
  savedAt,
}: {
  era: string
  origin: VersionOrigin | null
  savedAt: string
}): Years | undefined {
  const said = origin?.years ?? readWhen(era)
  if (said) return said
  const isOurs = origin ? origin.kind !== 'historical' : era.trim() === ''
  const year = new Date(savedAt).getUTCFullYear()
  return isOurs ? { fromYear: year, toYear: year } : undefined
}
