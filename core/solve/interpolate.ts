/** A table of y against x with x strictly rising. */
export interface Table {
  x: readonly number[]
  y: readonly number[]
  /** Upper row of the interval asked for last: the next question is mostly about the same. Changes no answer. */
  lastUpper: number
}

/**
 * Makes a table from rows [x, y] and checks it whole.
 * @throws Error naming the first row whose x does not rise
 */
export function tableOf(name: string, rows: readonly (readonly [number, number])[]): Table {
  rows.forEach(([x], i) => {
    const before = rows[i - 1]
    if (before && !(x > before[0])) throw new Error(`table ${name}: row ${i + 1} (x = ${x}) does not rise`)
  })
  if (rows.length < 2) throw new Error(`table ${name} needs two rows or more, has ${rows.length}`)
  return { x: rows.map((r) => r[0]), y: rows.map((r) => r[1]), lastUpper: 1 }
}

/** Linear between the rows; beyond either end the end row's slope goes on. */
export function interpolate(table: Table, x: number): number {
  const { x: xs, y: ys } = table
  const last = xs.length - 1
  let i = table.lastUpper
  while (i > 1 && (xs[i - 1] as number) >= x) i--
  while (i < last && (xs[i] as number) < x) i++
  table.lastUpper = i
  const x0 = xs[i - 1] as number
  const x1 = xs[i] as number
  const y0 = ys[i - 1] as number
  const y1 = ys[i] as number
  return y0 + ((x - x0) / (x1 - x0)) * (y1 - y0)
}
