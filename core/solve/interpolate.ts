/** A table of y against x with x strictly rising. */
export interface Table {
  x: readonly number[]
  y: readonly number[]
  /** The interval asked for last, and its line: the next question is mostly about the same. Changes no answer. */
  last: { from: number; to: number; upper: number; at: number; base: number; slope: number }
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
  const table = {
    x: rows.map((r) => r[0]),
    y: rows.map((r) => r[1]),
    last: { from: 1, to: 0, upper: 1, at: 0, base: 0, slope: 0 },
  }
  interpolate(table, rows[0]?.[0] ?? 0)
  return table
}

/** Linear between the rows; beyond either end the end row's slope goes on. */
export function interpolate(table: Table, x: number): number {
  const { at, base, slope } = intervalAt(table, x)
  return base + (x - at) * slope
}

/** The interval that x lies in, and its line; good until the next question. */
export function intervalAt(table: Table, x: number): Table['last'] {
  const { last } = table
  if (!(x > last.from && x <= last.to)) findInterval(table, x)
  return last
}

/** Sets the table to the interval that x lies in: above its lower row, up to its upper one. */
function findInterval({ x: xs, y: ys, last }: Table, x: number): void {
  const top = xs.length - 1
  let i = last.upper
  while (i > 1 && (xs[i - 1] as number) >= x) i--
  while (i < top && (xs[i] as number) < x) i++
  const x0 = xs[i - 1] as number
  const y0 = ys[i - 1] as number
  last.upper = i
  last.at = x0
  last.base = y0
  last.slope = ((ys[i] as number) - y0) / ((xs[i] as number) - x0)
  last.from = i === 1 ? Number.NEGATIVE_INFINITY : x0
  last.to = i === top ? Number.POSITIVE_INFINITY : (xs[i] as number)
}
