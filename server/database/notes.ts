/** What a write changed of the drafts, which stand in no event: noted where they are written, read when it ends well. */

import type { Database } from './database.ts'

const noted = new WeakMap<Database, Set<string>>()

/** From now on what this transaction does to drafts is noted. @returns their places, as they come: `drink/name` */
export function beginNotes(tx: Database): ReadonlySet<string> {
  const places = new Set<string>()
  noted.set(tx, places)
  return places
}

export function noteDraft(tx: Database, kind: string, subject: string): void {
  noted.get(tx)?.add(`${kind}/${subject}`)
}
