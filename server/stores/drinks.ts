import type { ListedVersion, Version } from '@conch/contract'
import type { VersionKey } from '@conch/core/lineage'
import { and, asc, eq, inArray, max, ne, or, type SQL, sql } from 'drizzle-orm'
import type { Database } from '../database/index.ts'
import { drinks, versionParents, versions } from '../database/schema.ts'
import { readAsText } from './readAsText.ts'

export async function findDrink(db: Database, slug: string): Promise<typeof drinks.$inferSelect | undefined> {
  const [row] = await db.select().from(drinks).where(eq(drinks.slug, slug))
  return row
}

/** @returns false when the slug is taken */
export async function insertDrink(
  db: Database,
  drink: Pick<typeof drinks.$inferInsert, 'slug' | 'name' | 'riffOf'>,
): Promise<boolean> {
  const rows = await db.insert(drinks).values(drink).onConflictDoNothing().returning()
  return rows.length > 0
}

export async function renameDrink(db: Database, slug: string, name: string): Promise<void> {
  await db.update(drinks).set({ name }).where(eq(drinks.slug, slug))
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

/** Drinks with how many versions they have and when the newest was saved: all, or these, as far as they are there. */
export async function loadDrinks(db: Database, only?: readonly string[]) {
  const among = (column: SQL) => (only ? sql`where ${column} = any(${sql.param([...only])}::text[])` : sql``)
  const rows = await readAsText<[string, string, boolean, number | null, number | null, number | null, string | null]>(
    db,
    sql`select json_build_array(d.slug, d.name, d.is_hidden, v.count, v.latest, coalesce(v.own, v.latest), v.changed_at) as row
        from ${drinks} d left join (
          select drink, count(*) as count, max(number) as latest, max(saved_at) as changed_at,
            max(number) filter (where origin is null or origin ->> 'kind' not in ('historical', 'trial')) as own
          from ${versions} ${among(sql`drink`)} group by drink
        ) v on v.drink = d.slug ${among(sql`d.slug`)}`,
  )
  return rows.map(([slug, name, isHidden, versionCount, latestVersion, ownVersion, changedAt]) => ({
    slug,
    name,
    isHidden,
    versionCount: versionCount ?? 0,
    latestVersion,
    ownVersion,
    changedAt: changedAt === null ? null : new Date(changedAt).toISOString(),
  }))
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
  return rows.map(({ savedById: _, ...row }) => {
    // The nearest first; the others in an order that does not depend on the database.
    const isNearest = (p: VersionKey) => p.drink === row.drink && p.version === row.parent
    const all = of.get(`${row.drink} ${row.number}`) ?? []
    const parents = all.toSorted(
      (a, b) =>
        Number(isNearest(b)) - Number(isNearest(a)) ||
        (a.drink < b.drink ? -1 : a.drink > b.drink ? 1 : a.version - b.version),
    )
    return { ...row, savedAt: row.savedAt.toISOString(), parents }
  })
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
): Promise<Map<string, Omit<ListedVersion, 'savedAt'> & { savedAt: Date }>> {
  if (keys.length === 0) return new Map()
  const rows = await db
    .select({
      drink: versions.drink,
      number: versions.number,
      label: versions.label,
      era: versions.era,
      origin: versions.origin,
      savedAt: versions.savedAt,
      document: versions.document,
    })
    .from(versions)
    .where(sql`(${versions.drink}, ${versions.number}) in (${amongKeys(keys)})`)
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

/** What some versions were made from, as they were saved. */
export async function loadParentsOf(
  db: Database,
  keys: readonly VersionKey[],
): Promise<{ child: VersionKey; from: VersionKey }[]> {
  if (keys.length === 0) return []
  const rows = await db
    .select()
    .from(versionParents)
    .where(sql`(${versionParents.drink}, ${versionParents.number}) in (${amongKeys(keys)})`)
  return rows.map((p) => ({
    child: { drink: p.drink, version: p.number },
    from: { drink: p.parentDrink, version: p.parentNumber },
  }))
}

const amongKeys = (keys: readonly VersionKey[]) =>
  sql.join(
    keys.map((k) => sql`(${k.drink}, ${k.version}::int)`),
    sql`, `,
  )

/** Versions of other drinks that a drink's versions were made from, or that were made from them. */
export async function loadLinked(db: Database, drink: string): Promise<VersionKey[]> {
  const { drink: child, number, parentDrink, parentNumber } = versionParents
  const links = await db
    .select({ child, number, parentDrink, parentNumber })
    .from(versionParents)
    .where(or(and(eq(child, drink), ne(parentDrink, drink)), and(eq(parentDrink, drink), ne(child, drink))))
  return links.map((l) =>
    l.child === drink ? { drink: l.parentDrink, version: l.parentNumber } : { drink: l.child, version: l.number },
  )
}

/** Some versions, whole, by when they were saved. */
export async function loadWholeVersions(db: Database, keys: readonly VersionKey[]): Promise<Version[]> {
  if (keys.length === 0) return []
  const among = amongKeys(keys)
  const rows = await db
    .select()
    .from(versions)
    .where(sql`(${versions.drink}, ${versions.number}) in (${among})`)
    .orderBy(asc(versions.savedAt), asc(versions.drink), asc(versions.number))
  return withParents(db, rows, sql`(${versionParents.drink}, ${versionParents.number}) in (${among})`)
}
