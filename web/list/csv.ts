import type { ListColumn } from './columns.ts'

/** Saves rows as a file that a spreadsheet opens. Nothing in it is taken for a formula. */
export async function saveCsv<R>(name: string, columns: readonly ListColumn<R>[], rows: readonly R[]): Promise<void> {
  const { default: Papa } = await import('papaparse')
  const text = Papa.unparse(
    { fields: columns.map((c) => c.label), data: rows.map((row) => columns.map((c) => c.csv(row))) },
    { escapeFormulae: true },
  )
  // Spreadsheets take a file for UTF-8 only when it says so.
  const url = URL.createObjectURL(new Blob(['\uFEFF', text], { type: 'text/csv;charset=utf-8' }))
  const link = document.createElement('a')
  link.href = url
  link.download = `${name}.csv`
  link.click()
  setTimeout(() => URL.revokeObjectURL(url), 10_000)
}
