/** The tables that are history: rows come, and never change or go. The database refuses anything else. */

import { and, eq, getTableName } from 'drizzle-orm'
import type { PgColumn, PgTable } from 'drizzle-orm/pg-core'
import type { Database } from '../database/index.ts'
import { practices, roundEnds, rounds } from '../database/roundSchema.ts'
import { fieldsAsStored, propertyOf, rowsInOrder } from '../database/rowsInOrder.ts'
import {
  calibrations,
  decisions,
  editions,
  findings,
  flights,
  lotEvents,
  lots,
  recipes,
  splitPreps,
  tasteNotes,
  tastingEvents,
  tastingSheets,
  tastings,
  trialEvents,
  trials,
  versionParents,
  versions,
} from '../database/schema.ts'
import { outEnds, outs, tonightChoiceEnds, tonightChoices } from '../database/tonightSchema.ts'

interface HistoryTable {
  table: PgTable
  key: PgColumn[]
}

const byId = <T extends PgTable & { id: PgColumn }>(table: T): HistoryTable => ({ table, key: [table.id] })

/** In the order in which one refers to another. */
const HISTORY: HistoryTable[] = [
  { table: versions, key: [versions.drink, versions.number] },
  {
    table: versionParents,
    key: [versionParents.drink, versionParents.number, versionParents.parentDrink, versionParents.parentNumber],
  },
  { table: recipes, key: [recipes.ingredient, recipes.number] },
  { table: editions, key: [editions.number] },
  byId(lots),
  byId(lotEvents),
  byId(findings),
  byId(decisions),
  byId(flights),
  byId(splitPreps),
  byId(trials),
  byId(trialEvents),
  byId(calibrations),
  byId(tastings),
  byId(tastingSheets),
  byId(tastingEvents),
  byId(tasteNotes),
  byId(outs),
  byId(outEnds),
  byId(tonightChoices),
  byId(tonightChoiceEnds),
  byId(rounds),
  byId(roundEnds),
  byId(practices),
]

const BY_NAME = new Map(HISTORY.map((h) => [getTableName(h.table), h]))
export const HISTORY_TABLES = [...BY_NAME.keys()]

export type Key = (string | number)[]
export type Row = Record<string, unknown>

/** A row as it is hashed and copied: moments as ISO text. */
export const plainRow = (row: Row): Row =>
  Object.fromEntries(Object.entries(row).map(([k, v]) => [k, v instanceof Date ? v.toISOString() : v]))

/** Columns that came after rows were hashed: where they hold nothing, the row is what it was. */
const LATER: Readonly<Record<string, readonly string[]>> = { versions: ['origin'] }

/** A row of history as it is hashed. */
export function rowToHash(table: string, row: Row): Row {
  const later = LATER[table] ?? []
  return Object.fromEntries(Object.entries(row).filter(([key, value]) => value !== null || !later.includes(key)))
}

const historyOf = (name: string): HistoryTable => {
  const found = BY_NAME.get(name)
  if (!found) throw new Error(`bug: “${name}” is no table of history`)
  return found
}

/** One row of history, or undefined. */
export async function findHistoryRow(db: Database, name: string, key: Key): Promise<Row | undefined> {
  const { table, key: columns } = historyOf(name)
  const [row] = await db
    .select(fieldsAsStored(table))
    .from(table)
    .where(and(...columns.map((column, i) => eq(column, key[i]))))
  return row && plainRow(row)
}

/** Every row of a table of history with its key, in order of the key. */
export async function* historyRows(db: Database, name: string): AsyncGenerator<{ key: Key; row: Row }> {
  const { table, key: columns } = historyOf(name)
  const properties = columns.map((column) => propertyOf(table, column))
  for await (const row of rowsInOrder(db, table, columns))
    yield { key: properties.map((p) => row[p] as string | number), row: plainRow(row) }
}
