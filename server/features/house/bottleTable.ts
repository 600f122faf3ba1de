import type { BottleTable, BottleTableReport } from '@conch/contract'
import type { Ingredient } from '@conch/core/house'
import { isSame } from '@conch/core/lineage'
import { BOTTLE_COLUMNS, toBottleRow } from '@conch/core/reading'
import Papa from 'papaparse'
import { Refusal } from '../../errors/Refusal.ts'
import type { Write } from '../../events/index.ts'
import { heldHouse } from '../../held/index.ts'
import { upsertIngredients } from '../../stores/house.ts'
import type { GoodRow } from './readBottleRows.ts'

/** The back bar as a table, for a spreadsheet. What could run as a formula there is kept from it. */
export function writeBottleTable(ingredients: readonly Ingredient[]): string {
  const rows = ingredients.filter((i) => !i.recipe).map(toBottleRow)
  return Papa.unparse(rows, { columns: [...BOTTLE_COLUMNS], escapeFormulae: true })
}

/**
 * Brings the rows of a table in that was read, or only says what it would. `whole` refuses everything when one row
 * is bad; `good` keeps the good rows.
 * @throws Refusal `conflict` when somebody changed one of them since the table was read
 */
export async function saveBottleTable(
  { report, good }: { report: BottleTableReport; good: GoodRow[] },
  mode: BottleTable['mode'],
  { db, record }: Write,
): Promise<BottleTableReport> {
  const isRefused = mode === 'check' || (mode === 'whole' && report.problems.length > 0)
  if (isRefused || good.length === 0) return { ...report, saved: !isRefused }
  const held = await heldHouse(db)
  const moved = good.find(({ document, was }) => !isSame(held.ingredient(document.slug), was))
  if (moved)
    throw new Refusal('conflict', `${moved.document.name} was changed while the table was read; bring it in again`)
  await upsertIngredients(
    db,
    good.map((g) => g.document),
  )
  const was = good.flatMap((g) => g.was ?? [])
  const is = good.map((g) => g.document)
  record({ kind: 'bottles', subject: 'table', verb: 'imported', detail: { made: report.made, was, is } })
  return { ...report, saved: true }
}
