import type { Version } from '@conch/contract'
import { and, asc, eq, inArray, max, type SQL, sql } from 'drizzle-orm'
import type { Database } from '../database/index.ts'
import { documentDrafts, drinks, versionParents, versions } from '../database/schema.ts'

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

/** Names of drinks by their slugs. */
export async function loadNames(db: Database, slugs: readonly string[]): Promise<Map<string, string>> {
  if (slugs.length === 0) return new Map()
  const rows = await db
    .select({ slug: drinks.slug, name: drinks.name })
    .from(drinks)
    .where(inArray(drinks.slug, [...slugs]))
  return new Map(rows.map((r) => [r.slug, r.name]))
}

/** The numbers of all versions of some drinks. */
export async function loadVersionNumbers(db: Database, slugs: readonly string[]): Promise<Map<string, number[]>> {
  const found = new Map<string, number[]>()
  if (slugs.length === 0) return found
  const rows = await db
    .select({ drink: versions.drink, number: versions.number })
    .from(versions)
    .where(inArray(versions.drink, [...slugs]))
    .orderBy(asc(versions.drink), asc(versions.number))
  for (const { drink, number } of rows) found.set(drink, [...(found.get(drink) ?? []), number])
  return found
}

/** Every drink, without its versions. */
/** Drinks with how many versions they have and when the newest was saved: all, or these, as far as they are there. */
export async function loadDrinks(db: Database, only?: readonly string[]) {
  const counted = db
    .select({
      drink: versions.drink,
      versionCount: sql<number>`count(*)::int`.as('version_count'),
      latestVersion: sql<number>`max(${versions.number})`.as('latest_version'),
      changedAt: sql<string>`max(${versions.savedAt})`.as('changed_at'),
    })
    .from(versions)
    .where(only && inArray(versions.drink, [...only]))
    .groupBy(versions.drink)
    .as('counted')
  const rows = await db
    .select({
      slug: drinks.slug,
      name: drinks.name,
      isHidden: drinks.isHidden,
      versionCount: counted.versionCount,
      latestVersion: counted.latestVersion,
      changedAt: counted.changedAt,
    })
    .from(drinks)
    .leftJoin(counted, eq(counted.drink, drinks.slug))
    .where(only && inArray(drinks.slug, [...only]))
  return rows.map(({ versionCount, changedAt, ...row }) => ({
    ...row,
    versionCount: versionCount ?? 0,
    changedAt: changedAt === null ? null : new Date(changedAt).toISOString(),
  }))
}

/** Those of these drinks that somebody is drafting. */
export async function draftedAmong(db: Database, slugs: readonly string[]): Promise<Set<string>> {
  const rows = await db
    .select({ slug: documentDrafts.subject })
    .from(documentDrafts)
    .where(and(eq(documentDrafts.kind, 'drink'), inArray(documentDrafts.subject, [...slugs])))
  return new Set(rows.map((r) => r.slug))
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

export async function findVersion(db: Database, drink: string, number: number): Promise<Version | undefined> {
  const rows = await db
    .select()
    .from(versions)
    .where(and(eq(versions.drink, drink), eq(versions.number, number)))
  const which = and(eq(versionParents.drink, drink), eq(versionParents.number, number))
  return (await withParents(db, rows, which))[0]
}

/** Some versions at once, by `drink number`, without what they were made from. */
export async function loadVersionsOf(
  db: Database,
  keys: readonly { drink: string; version: number }[],
): Promise<Map<string, Pick<Version, 'drink' | 'number' | 'label' | 'document'>>> {
  if (keys.length === 0) return new Map()
  const pairs = keys.map((k) => sql`(${k.drink}, ${k.version}::int)`)
  const rows = await db
    .select({
      drink: versions.drink,
      number: versions.number,
      label: versions.label,
      document: versions.document,
    })
    .from(versions)
    .where(sql`(${versions.drink}, ${versions.number}) in (${sql.join(pairs, sql`, `)})`)
  return new Map(rows.map((r) => [`${r.drink} ${r.number}`, r]))
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
