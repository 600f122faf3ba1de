import type { Draft, Version } from '@conch/contract'
import type { DrinkDocument } from '@conch/core/drink'
import { and, asc, eq, max, sql } from 'drizzle-orm'
import type { Database } from '../../database/index.ts'
import { drafts, drinks, replacedDrafts, versions } from '../../database/schema.ts'

export interface Stamp {
  savedBy: string
  savedAt: Date
}

export async function findDrink(db: Database, slug: string): Promise<{ slug: string; name: string } | undefined> {
  const [row] = await db.select({ slug: drinks.slug, name: drinks.name }).from(drinks).where(eq(drinks.slug, slug))
  return row
}

/** @returns false when the slug is taken */
export async function insertDrink(db: Database, slug: string, name: string): Promise<boolean> {
  const rows = await db.insert(drinks).values({ slug, name }).onConflictDoNothing().returning()
  return rows.length > 0
}

export async function renameDrink(db: Database, slug: string, name: string): Promise<void> {
  await db.update(drinks).set({ name }).where(eq(drinks.slug, slug))
}

/** Every drink with its counts, by name. */
export async function loadDrinkRows(db: Database) {
  return db
    .select({
      slug: drinks.slug,
      name: drinks.name,
      versionCount: sql<number>`count(${versions.number})::int`,
      latestVersion: max(versions.number),
      hasDraft: sql<boolean>`exists (select 1 from ${drafts} where ${drafts.drink} = ${drinks.slug})`,
    })
    .from(drinks)
    .leftJoin(versions, eq(versions.drink, drinks.slug))
    .groupBy(drinks.slug, drinks.name)
    .orderBy(asc(drinks.name))
}

const toVersion = (row: typeof versions.$inferSelect): Version => ({ ...row, savedAt: row.savedAt.toISOString() })
const toDraft = (row: typeof drafts.$inferSelect): Draft => ({ ...row, savedAt: row.savedAt.toISOString() })

export async function loadVersions(db: Database, drink: string): Promise<Version[]> {
  const rows = await db.select().from(versions).where(eq(versions.drink, drink)).orderBy(asc(versions.number))
  return rows.map(toVersion)
}

export async function loadAllVersions(db: Database): Promise<Version[]> {
  const rows = await db.select().from(versions).orderBy(asc(versions.drink), asc(versions.number))
  return rows.map(toVersion)
}

export async function findVersion(db: Database, drink: string, number: number): Promise<Version | undefined> {
  const [row] = await db
    .select()
    .from(versions)
    .where(and(eq(versions.drink, drink), eq(versions.number, number)))
  return row && toVersion(row)
}

export async function insertVersion(db: Database, row: typeof versions.$inferInsert): Promise<void> {
  await db.insert(versions).values(row)
}

export async function latestVersionNumber(db: Database, drink: string): Promise<number> {
  const [row] = await db
    .select({ number: max(versions.number) })
    .from(versions)
    .where(eq(versions.drink, drink))
  return row?.number ?? 0
}

export async function findDraft(db: Database, drink: string): Promise<Draft | undefined> {
  const [row] = await db.select().from(drafts).where(eq(drafts.drink, drink))
  return row && toDraft(row)
}

/**
 * Writes a draft on top of the revision it was made from, 0 for none.
 * @returns the new revision, or undefined when another one stands there
 */
export async function writeDraft(
  db: Database,
  draft: { drink: string; baseVersion: number | null; document: DrinkDocument; revision: number },
  stamp: Stamp,
): Promise<number | undefined> {
  const { revision, ...rest } = draft
  // Counted by the drink, so that no later draft ever has a revision that an earlier one had. It
  // also makes a second writer wait here rather than fail below.
  const [counted] = await db
    .update(drinks)
    .set({ draftRevision: sql`${drinks.draftRevision} + 1` })
    .where(eq(drinks.slug, draft.drink))
    .returning({ next: drinks.draftRevision })
  const row = { ...rest, ...stamp, revision: counted?.next ?? 1 }
  const written =
    revision === 0
      ? await db.insert(drafts).values(row).onConflictDoNothing().returning({ revision: drafts.revision })
      : await db
          .update(drafts)
          .set(row)
          .where(and(eq(drafts.drink, draft.drink), eq(drafts.revision, revision)))
          .returning({ revision: drafts.revision })
  return written[0]?.revision
}

export async function keepReplacedDraft(db: Database, draft: Draft, replacedAt: Date): Promise<void> {
  const { drink, baseVersion, document, savedBy, savedAt } = draft
  await db
    .insert(replacedDrafts)
    .values({ drink, baseVersion, document, savedBy, savedAt: new Date(savedAt), replacedAt })
}

/** @returns false when another revision stands there */
export async function deleteDraft(db: Database, drink: string, revision: number): Promise<boolean> {
  const rows = await db
    .delete(drafts)
    .where(and(eq(drafts.drink, drink), eq(drafts.revision, revision)))
    .returning()
  return rows.length > 0
}
