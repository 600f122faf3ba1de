import type { SaidNoteRow } from '@conch/contract'
import { and, asc, eq } from 'drizzle-orm'
import type { Database } from '../database/index.ts'
import { tasteNotes } from '../database/schema.ts'

/** What was said of a version, oldest first. */
export async function loadNotes(db: Database, drink: string, number: number): Promise<SaidNoteRow[]> {
  const rows = await db
    .select()
    .from(tasteNotes)
    .where(and(eq(tasteNotes.drink, drink), eq(tasteNotes.number, number)))
    .orderBy(asc(tasteNotes.id))
  return rows.map(({ savedById: _, ...row }) => ({ ...row, savedAt: row.savedAt.toISOString() }))
}

export async function insertNote(db: Database, row: typeof tasteNotes.$inferInsert): Promise<number> {
  const [made] = await db.insert(tasteNotes).values(row).returning({ id: tasteNotes.id })
  if (!made) throw new Error('bug: a note was not stored')
  return made.id
}
