import { DRAFT_SCHEMAS, type Draft, type DraftDocuments, type DraftKind } from '@conch/contract'
import { formOf } from '@conch/core/schema'
import { and, eq, isNull, sql } from 'drizzle-orm'
import { type Database, noteDraft } from '../database/index.ts'
import { documentDrafts, documentDraftsReplaced } from '../database/schema.ts'

export interface Stamp {
  savedBy: string
  savedById: number | null
  savedAt: Date
}

const isOf = (kind: DraftKind, subject: string) =>
  and(eq(documentDrafts.kind, kind), eq(documentDrafts.subject, subject))

/** The draft as it stands: parsed by the form of its kind. */
export async function findDraft<K extends DraftKind>(
  db: Database,
  kind: K,
  subject: string,
): Promise<(Draft<DraftDocuments[K]> & { savedById: number | null }) | undefined> {
  const [row] = await db.select().from(documentDrafts).where(isOf(kind, subject))
  if (!row) return undefined
  const { kind: _, document, savedAt, ...rest } = row
  const form = formOf<DraftDocuments[K]>(DRAFT_SCHEMAS[kind])
  return { ...rest, document: form.parse(document), savedAt: savedAt.toISOString() }
}

/** The drinks that somebody is drafting. */
export async function loadDraftedDrinks(db: Database): Promise<Set<string>> {
  const rows = await db
    .select({ slug: documentDrafts.subject })
    .from(documentDrafts)
    .where(eq(documentDrafts.kind, 'drink'))
  return new Set(rows.map((r) => r.slug))
}

/** The drafts of drinks that began from no version. */
export async function loadDrinkDrafts(db: Database): Promise<{ drink: string; document: DraftDocuments['drink'] }[]> {
  const rows = await db
    .select({ drink: documentDrafts.subject, document: documentDrafts.document })
    .from(documentDrafts)
    .where(and(eq(documentDrafts.kind, 'drink'), isNull(documentDrafts.baseVersion)))
  const form = formOf<DraftDocuments['drink']>(DRAFT_SCHEMAS.drink)
  return rows.map(({ drink, document }) => ({ drink, document: form.parse(document) }))
}

/**
 * Writes a draft on top of the revision it was made from, 0 for none.
 * @returns the new revision, or undefined when another one stands there
 */
export async function writeDraft(
  db: Database,
  kind: DraftKind,
  {
    subject,
    revision,
    baseVersion,
    document,
  }: Pick<Draft<object>, 'subject' | 'revision' | 'baseVersion' | 'document'>,
  stamp: Stamp,
): Promise<number | undefined> {
  // From one row of numbers for all drafts: no later draft ever has a revision that an earlier one had.
  const next = sql<number>`nextval('draft_revisions')`
  const row = { kind, subject, baseVersion, document, ...stamp, revision: next }
  const written =
    revision === 0
      ? await db.insert(documentDrafts).values(row).onConflictDoNothing().returning()
      : await db
          .update(documentDrafts)
          .set(row)
          .where(and(isOf(kind, subject), eq(documentDrafts.revision, revision)))
          .returning()
  if (written[0]) noteDraft(db, kind, subject)
  return written[0]?.revision
}

/** Keeps the words of a draft that another one takes the place of. */
export async function keepReplacedDraft(
  db: Database,
  kind: DraftKind,
  draft: Draft<object> & { savedById: number | null },
  replacedAt: Date,
): Promise<void> {
  const { subject, baseVersion, document, savedBy, savedById, savedAt } = draft
  await db.insert(documentDraftsReplaced).values({
    kind,
    subject,
    baseVersion,
    document,
    savedBy,
    savedById,
    savedAt: new Date(savedAt),
    replacedAt,
  })
}

/** @returns false when another revision stands there */
export async function deleteDraft(db: Database, kind: DraftKind, subject: string, revision: number): Promise<boolean> {
  const rows = await db
    .delete(documentDrafts)
    .where(and(isOf(kind, subject), eq(documentDrafts.revision, revision)))
    .returning({ revision: documentDrafts.revision })
  if (rows.length > 0) noteDraft(db, kind, subject)
  return rows.length > 0
}
