import type { Version } from '@conch/contract'
import { and, asc, eq, max, type SQL, sql } from 'drizzle-orm'
import type { Database } from '../../database/index.ts'
import { documentDrafts, drinks, versionParents, versions } from '../../database/schema.ts'

export async function findDrink(
  db: Database,
  slug: string,
): Promise<{ slug: string; name: string; isHidden: boolean } | undefined> {
  const [row] = await db.select().from(drinks).where(eq(drinks.slug, slug))
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
      hasDraft: sql<boolean>`exists (select 1 from ${documentDrafts} d where d.kind = 'drink' and d.subject = ${drinks.slug})`,
      isHidden: drinks.isHidden,
    })
    .from(drinks)
    .leftJoin(versions, eq(versions.drink, drinks.slug))
    .groupBy(drinks.slug, drinks.name, drinks.isHidden)
    .orderBy(asc(drinks.name))
}

type VersionRow = typeof versions.$inferSelect

/** Versions with what they were made from. */
async function withParents(db: Database, rows: VersionRow[], which?: SQL): Promise<Version[]> {
  const parents = rows.length === 0 ? [] : await db.select().from(versionParents).where(which)
  const of = new Map<string, Version['parents']>()
  for (const p of parents) {
    const key = `${p.drink} ${p.number}`
    of.set(key, [...(of.get(key) ?? []), { drink: p.parentDrink, version: p.parentNumber }])
  }
  return rows.map(({ savedById: _, ...row }) => ({
    ...row,
    savedAt: row.savedAt.toISOString(),
    parents: of.get(`${row.drink} ${row.number}`) ?? [],
  }))
}

export async function loadVersions(db: Database, drink: string): Promise<Version[]> {
  const rows = await db.select().from(versions).where(eq(versions.drink, drink)).orderBy(asc(versions.number))
  return withParents(db, rows, eq(versionParents.drink, drink))
}

export async function loadAllVersions(db: Database): Promise<Version[]> {
  return withParents(db, await db.select().from(versions).orderBy(asc(versions.drink), asc(versions.number)))
}

export async function findVersion(db: Database, drink: string, number: number): Promise<Version | undefined> {
  const rows = await db
    .select()
    .from(versions)
    .where(and(eq(versions.drink, drink), eq(versions.number, number)))
  const which = and(eq(versionParents.drink, drink), eq(versionParents.number, number))
  return (await withParents(db, rows, which))[0]
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

/** Throws a drink away that has no version yet; its draft is gone before. */
export async function removeDrink(db: Database, slug: string): Promise<void> {
  await db.delete(drinks).where(eq(drinks.slug, slug))
}

export async function setHidden(db: Database, slug: string, isHidden: boolean): Promise<void> {
  await db.update(drinks).set({ isHidden }).where(eq(drinks.slug, slug))
}

/** What a version was made from. */
export async function insertParents(
  db: Database,
  child: { drink: string; number: number },
  parents: readonly Version['parents'][number][],
): Promise<void> {
  if (parents.length === 0) return
  const rows = parents.map((p) => ({ ...child, parentDrink: p.drink, parentNumber: p.version }))
  await db.insert(versionParents).values(rows)
}
