/** Every row of a table, however many: read a page at a time, in an order that is the same in every database. */

import { setImmediate as turnOfOthers } from 'node:timers/promises'
import { and, asc, eq, getTableColumns, gt, inArray, lte, type SQL, sql } from 'drizzle-orm'
import type { PgColumn, PgTable } from 'drizzle-orm/pg-core'
import type { Database } from './database.ts'
import { editions } from './schema.ts'

type Row = Record<string, unknown>

/** Rows read at once; of editions, whose locks are large, one. */
const PAGE = 200
const OWNERS_AT_ONCE = 20

/** The name by which a row object has a column. */
export function propertyOf(table: PgTable, column: PgColumn): string {
  const found = Object.entries(getTableColumns(table)).find(([, c]) => c === column)
  if (!found) throw new Error('bug: a column is not in its table')
  return found[0]
}

const rawFields = new WeakMap<PgTable, Record<string, PgColumn | SQL>>()

/** Every column of a table, documents as they are stored: neither brought up to date nor filled with defaults. */
export function fieldsAsStored(table: PgTable): Record<string, PgColumn | SQL> {
  const known = rawFields.get(table)
  if (known) return known
  const fields = Object.fromEntries(
    Object.entries(getTableColumns(table)).map(([name, column]) => [
      name,
      column.dataType === 'custom' ? sql`${column}` : column,
    ]),
  )
  rawFields.set(table, fields)
  return fields
}

/** Rows up to here only: what came later is not looked at. */
export interface UpTo {
  /** The last id, of a table that is ordered by one. */
  id?: number
  /** Of each owner the last number, of a table that is ordered by owner and number. */
  numbers?: ReadonlyMap<string, number>
}

/**
 * Between two pages the others have their turn: a database within this process answers at once, so that nothing else
 * would be heard until the last row.
 *
 * @param key an id; or a text (the owner: it orders by code units, whatever the database's language) and more
 */
export async function* rowsInOrder(
  db: Database,
  table: PgTable,
  key: readonly PgColumn[],
  upTo: UpTo = {},
): AsyncGenerator<Row> {
  const [first, second] = key
  if (!first) throw new Error('bug: a table without a key has no order')
  if (first.dataType === 'number') yield* rowsById(db, table, first, upTo.id)
  else yield* rowsByOwner(db, table, key, upTo.numbers, second)
}

async function* rowsById(db: Database, table: PgTable, id: PgColumn, last: number | undefined): AsyncGenerator<Row> {
  const property = propertyOf(table, id)
  const page = table === editions ? 1 : PAGE
  let after: number | undefined
  for (;;) {
    const where: SQL[] = []
    if (after !== undefined) where.push(gt(id, after))
    if (last !== undefined) where.push(lte(id, last))
    const rows: Row[] = await db
      .select(fieldsAsStored(table))
      .from(table)
      .where(and(...where))
      .orderBy(asc(id))
      .limit(page)
    yield* rows
    // After the last page, too: many small tables follow each other.
    await turnOfOthers()
    if (rows.length < page) return
    after = rows.at(-1)?.[property] as number
  }
}

async function* rowsByOwner(
  db: Database,
  table: PgTable,
  key: readonly PgColumn[],
  numbers: ReadonlyMap<string, number> | undefined,
  number: PgColumn | undefined,
): AsyncGenerator<Row> {
  const owner = key[0] as PgColumn
  const properties = key.map((column) => propertyOf(table, column))
  const owners = numbers
    ? [...numbers.keys()]
    : (await db.selectDistinct({ owner }).from(table)).map((r) => r.owner as string)
  owners.sort(byCodeUnits)
  // An owner that is the whole key has one row.
  const atOnce = key.length === 1 ? PAGE : OWNERS_AT_ONCE
  for (let i = 0; i < owners.length; i += atOnce) {
    const some = owners.slice(i, i + atOnce)
    const where = some.length === 1 ? eq(owner, some[0]) : inArray(owner, some)
    const rows: Row[] = await db.select(fieldsAsStored(table)).from(table).where(where)
    const isIn = (row: Row) => {
      const last = numbers?.get(row[properties[0] as string] as string)
      return last === undefined || number === undefined || (row[properties[1] as string] as number) <= last
    }
    yield* rows.filter(isIn).sort((a, b) => {
      for (const p of properties) {
        const order = compare(a[p] as string | number, b[p] as string | number)
        if (order !== 0) return order
      }
      return 0
    })
    await turnOfOthers()
  }
}

const byCodeUnits = (a: string, b: string) => (a < b ? -1 : a > b ? 1 : 0)
const compare = (a: string | number, b: string | number) =>
  typeof a === 'number' && typeof b === 'number' ? a - b : byCodeUnits(String(a), String(b))
