import type { BottleTableReport } from '@conch/contract'

/** A part of a table that stands by itself: with the names of the columns, and where it begins. */
export interface TablePart {
  csv: string
  firstLine: number
}

/**
 * Cuts a table into parts of so many lines, so that looking at it can show how far it is and be
 * stopped. A table with a quoted line break stays whole: a cut could go through a cell.
 */
export function splitTable(csv: string, linesAtOnce: number): TablePart[] {
  const lines = csv.replace(/\r\n?/g, '\n').split('\n')
  const [header = '', ...rows] = lines
  const isCuttable = lines.every((l) => (l.split('"').length - 1) % 2 === 0)
  if (!isCuttable || rows.length <= linesAtOnce) return [{ csv, firstLine: 2 }]
  const parts: TablePart[] = []
  for (let i = 0; i < rows.length; i += linesAtOnce) {
    const some = rows.slice(i, i + linesAtOnce)
    if (some.some((l) => l.trim())) parts.push({ csv: [header, ...some].join('\n'), firstLine: 2 + i })
  }
  return parts
}

export function addReports(a: BottleTableReport, b: BottleTableReport): BottleTableReport {
  return {
    ...a,
    rows: a.rows + b.rows,
    made: a.made + b.made,
    changed: a.changed + b.changed,
    same: a.same + b.same,
    problems: [...a.problems, ...b.problems],
  }
}
