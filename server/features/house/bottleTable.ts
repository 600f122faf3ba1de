import type { BottleTable, BottleTableReport } from '@conch/contract'
import type { Ingredient } from '@conch/core/house'
import { ingredientSchema } from '@conch/core/house/schema'
import { BOTTLE_COLUMNS, type BottleRow, readBottleRow, toBottleRow } from '@conch/core/reading'
import Papa from 'papaparse'
import type { Actor } from '../../access/actor.ts'
import { describeIssues } from '../../http/describeIssues.ts'
import { Refusal } from '../../http/Refusal.ts'
import type { Services } from '../../http/route.ts'
import { recordAudit } from '../audit/store.ts'
import { getHouse } from './houseUseCases.ts'
import { upsertIngredients } from './store.ts'

const MOST_PROBLEMS = 500

/** The back bar as a table, for a spreadsheet. What could run as a formula there is kept from it. */
export function writeBottleTable(ingredients: readonly Ingredient[]): string {
  const rows = ingredients.filter((i) => !i.recipe).map(toBottleRow)
  return Papa.unparse(rows, { columns: [...BOTTLE_COLUMNS], escapeFormulae: true })
}

/**
 * Brings a table of bottles in, or only looks at it. Every cell that cannot be is named by its line
 * and column. `whole` refuses everything when one row is bad; `good` keeps the good rows.
 */
export async function readBottleTable(
  { csv, mode, firstLine }: BottleTable,
  actor: Actor,
  { database, now }: Services,
): Promise<BottleTableReport> {
  const parsed = Papa.parse<Record<string, string>>(csv.replace(/\r\n?/g, '\n'), {
    header: true,
    skipEmptyLines: 'greedy',
    transformHeader: (header) => header.trim().toLowerCase(),
  })
  const columns = parsed.meta.fields ?? []
  if (!columns.includes('name')) {
    const message = `the first line names the columns; “name” is not among “${columns.slice(0, 6).join(', ')}”`
    throw new Refusal('invalid', `csv: ${message}`, { fields: [{ field: 'csv', message }] })
  }
  const unknownColumns = columns.filter((c) => !(BOTTLE_COLUMNS as readonly string[]).includes(c))
  return database.db.transaction(async (tx) => {
    const shelf = byAnyName((await getHouse(tx)).ingredients)
    const report: BottleTableReport = {
      rows: parsed.data.length,
      made: 0,
      changed: 0,
      same: 0,
      saved: false,
      unknownColumns,
      problems: [],
    }
    const seen = new Map<string, number>()
    const good: { document: Ingredient; was: Ingredient | undefined }[] = []
    for (const [i, row] of parsed.data.entries()) {
      const line = firstLine + i
      const read = readRow(row, shelf)
      if (!read.ok) {
        report.problems.push(...read.problems.map((p) => ({ line, ...p })))
        continue
      }
      const { document, was } = read
      const before = seen.get(document.slug)
      if (before !== undefined) {
        report.problems.push({ line, column: 'name', message: `“${document.name}” stands in line ${before} already` })
        continue
      }
      seen.set(document.slug, line)
      if (was && JSON.stringify(toBottleRow(was)) === JSON.stringify(toBottleRow(document))) report.same += 1
      else {
        good.push({ document, was })
        if (was) report.changed += 1
        else report.made += 1
      }
    }
    const isRefused = mode === 'check' || (mode === 'whole' && report.problems.length > 0)
    if (!isRefused && good.length > 0) {
      await upsertIngredients(
        tx,
        good.map((g) => g.document),
      )
      await recordAudit(tx, {
        at: now(),
        by: actor.name,
        act: 'importBottles',
        subject: `${good.length} bottles`,
        detail: { made: report.made, changed: good.flatMap((g) => g.was ?? []) },
      })
    }
    return { ...report, saved: !isRefused, problems: report.problems.slice(0, MOST_PROBLEMS) }
  })
}

type RowResult =
  | { ok: true; document: Ingredient; was: Ingredient | undefined }
  | { ok: false; problems: { column: string; message: string }[] }

const nameKey = (name: string) => `name:${name.trim().toLowerCase()}`

/** What stands on the shelf by its slug and by every name it ever had; today's name comes first. */
function byAnyName(ingredients: readonly Ingredient[]): Map<string, Ingredient> {
  const shelf = new Map<string, Ingredient>()
  for (const i of ingredients) for (const name of i.formerNames) shelf.set(nameKey(name), i)
  for (const i of ingredients) shelf.set(i.slug, i).set(nameKey(i.name), i)
  return shelf
}

/** A row on top of what stands on the shelf under its name: empty cells leave that as it is. */
function readRow(row: BottleRow, shelf: ReadonlyMap<string, Ingredient>): RowResult {
  const alone = readBottleRow(row)
  if (!alone.ok) return alone
  const was = shelf.get(nameKey(alone.ingredient.name)) ?? shelf.get(alone.ingredient.slug)
  if (was?.recipe) {
    const message = `“${was.name}” is a house mix; its figures follow from its recipe`
    return { ok: false, problems: [{ column: 'name', message }] }
  }
  const filled = was ? { ...toBottleRow(was), ...nonEmpty(row) } : row
  const read = was ? readBottleRow(filled) : alone
  if (!read.ok) return read
  const document = was
    ? { ...was, ...read.ingredient, slug: was.slug, name: was.name, figures: keptFigures(was, read.ingredient) }
    : read.ingredient
  const checked = ingredientSchema.safeParse(document)
  if (checked.success) return { ok: true, document: checked.data, was }
  const problems = describeIssues(checked.error, document)
  return { ok: false, problems: problems.map((p) => ({ column: columnOf(p.field), message: p.message })) }
}

const nonEmpty = (row: BottleRow) => Object.fromEntries(Object.entries(row).filter(([, v]) => v?.trim()))

/** A figure that the table does not change, or that the house measured, keeps how it is known, since when and from whom. */
function keptFigures(was: Ingredient, is: Ingredient): Ingredient['figures'] {
  const figures = { ...was.figures, ...is.figures }
  for (const key of Object.keys(figures) as (keyof Ingredient['figures'])[]) {
    const before = was.figures[key]
    const isSame = figures[key]?.value === Number(before?.value.toFixed(4))
    // What the house measured wins over what a table copied from a label.
    const wins = before?.basis === 'measured' && figures[key]?.basis !== 'measured'
    if (before && (isSame || wins)) figures[key] = before
  }
  return figures
}

/** The column that a field of the document is read from. */
function columnOf(field: string): string {
  if (field.startsWith('figures.abvPct')) return 'strength'
  if (field.startsWith('figures.acid')) return 'acid'
  if (field.startsWith('figures.fat')) return 'fat'
  if (field.startsWith('figures')) return 'sugar'
  return field
}
