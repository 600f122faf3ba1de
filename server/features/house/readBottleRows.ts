import type { BottleTable, BottleTableReport } from '@conch/contract'
import type { Ingredient } from '@conch/core/house'
import { ingredientSchema } from '@conch/core/house/schema'
import { isSame } from '@conch/core/lineage'
import { BOTTLE_COLUMNS, type BottleRow, readBottleRow, toBottleRow } from '@conch/core/reading'
import { keysOf } from '@conch/core/schema/keysOf'
import Papa from 'papaparse'
import { describeIssues } from '../../errors/describeIssues.ts'
import { invalid } from '../../errors/Refusal.ts'
import { jobOf } from '../../threads/index.ts'

const MOST_PROBLEMS = 500
const MOST_ROWS = 50_000
/** A table with more columns than this is no table of bottles. */
const MOST_COLUMNS = 200

/** A row that can be brought in, and what stands on the shelf under its name. */
export interface GoodRow {
  document: Ingredient
  was: Ingredient | undefined
}

/**
 * Reads a table of bottles against the shelf. Every cell that cannot be is named by its line and column.
 * @throws Refusal when it is no table at all
 */
export function readBottleRows({
  csv,
  firstLine,
  ingredients,
}: Pick<BottleTable, 'csv' | 'firstLine'> & { ingredients: Ingredient[] }): {
  report: BottleTableReport
  good: GoodRow[]
} {
  const text = csv.replace(/\r\n?/g, '\n')
  const named = text.slice(0, text.indexOf('\n') + 1 || undefined).split(/[,;\t|]/).length
  if (named > MOST_COLUMNS) throw invalid('csv', `its first line has ${named} columns; at most ${MOST_COLUMNS}`)
  const parsed = Papa.parse<Record<string, string>>(text, {
    header: true,
    skipEmptyLines: 'greedy',
    preview: MOST_ROWS + 1,
    transformHeader: (header) => header.trim().toLowerCase(),
  })
  if (parsed.data.length > MOST_ROWS) throw invalid('csv', `it has more than ${MOST_ROWS} rows; bring it in in parts`)
  const columns = parsed.meta.fields ?? []
  if (!columns.includes('name'))
    throw invalid(
      'csv',
      `the first line names the columns; “name” is not among “${columns.slice(0, 6).join(', ').slice(0, 200)}”`,
    )
  const unknownColumns = columns.filter((c) => !(BOTTLE_COLUMNS as readonly string[]).includes(c))
  const shelf = byAnyName(ingredients)
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
  const good: GoodRow[] = []
  const say = (problem: BottleTableReport['problems'][number]) => {
    if (report.problems.length < MOST_PROBLEMS) report.problems.push(problem)
  }
  for (const [i, row] of parsed.data.entries()) {
    const line = firstLine + i
    const read = readRow(row, shelf)
    if (!read.ok) {
      for (const p of read.problems) say({ line, ...p })
      continue
    }
    const { document, was } = read
    const before = seen.get(document.slug)
    if (before !== undefined) {
      say({ line, column: 'name', message: `“${document.name}” stands in line ${before} already` })
      continue
    }
    seen.set(document.slug, line)
    if (was && isSame(toBottleRow(was), toBottleRow(document))) report.same += 1
    else {
      good.push({ document, was })
      if (was) report.changed += 1
      else report.made += 1
    }
  }
  return { report, good }
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
  for (const key of keysOf(figures)) {
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

export const BOTTLE_ROWS = jobOf<typeof readBottleRows>('bottleRows')
