import type { PourPart } from '../drink/index.ts'
import { POUR_PARTS } from '../drink/index.ts'
import { keysOf } from '../schema/keysOf.ts'
import type { Comparable, ComparableLine } from './comparable.ts'

/** Pours that do the same in several versions, one for each side; undefined: that side pours nothing there. */
export interface AlignedRow {
  part: PourPart
  cells: (ComparableLine | undefined)[]
}

/** How unlike two lines of one part are that are not the same thing, before their volumes count. */
const OTHER_KIND = 1000
const OTHER_PLACE = 500

/**
 * Pours side by side by what they do: the same thing in one row, and what stands in for it in another version (lime where
 * the other has lemon) in the same one. Every line stands in exactly one row.
 */
export function alignPours(sides: readonly Pick<Comparable, 'lines'>[]): AlignedRow[] {
  return keysOf(POUR_PARTS).flatMap((part) => {
    const rows: AlignedRow[] = []
    sides.forEach(({ lines }, side) => {
      for (const line of lines.filter((l) => l.part === part)) {
        // The same thing twice in one version is two rows.
        const same = rows.find((r) => r.cells[side] === undefined && r.cells.some((c) => c?.what === line.what))
        if (same) same.cells[side] = line
        else {
          const cells = sides.map((): ComparableLine | undefined => undefined)
          cells[side] = line
          rows.push({ part, cells })
        }
      }
    })
    return sorted(merged(rows))
  })
}

/** Rows of different things that never stand in one version together, the most alike first. */
function merged(rows: readonly AlignedRow[]): AlignedRow[] {
  const left = [...rows]
  for (;;) {
    let best: { a: number; b: number; far: number } | undefined
    for (let a = 0; a < left.length; a++)
      for (let b = a + 1; b < left.length; b++) {
        const far = unlike(left[a] as AlignedRow, left[b] as AlignedRow)
        if (far !== undefined && (!best || far < best.far)) best = { a, b, far }
      }
    if (!best) return left
    const [one, other] = [left[best.a] as AlignedRow, left[best.b] as AlignedRow]
    left[best.a] = { part: one.part, cells: one.cells.map((cell, i) => cell ?? other.cells[i]) }
    left.splice(best.b, 1)
  }
}

/** undefined: they cannot be one row. */
function unlike(one: AlignedRow, other: AlignedRow): number | undefined {
  if (one.cells.some((cell, i) => cell && other.cells[i])) return undefined
  const [a, b] = [firstOf(one), firstOf(other)]
  const kind = a.kind === b.kind ? 0 : OTHER_KIND
  const place = a.into === b.into ? 0 : OTHER_PLACE
  return kind + place + Math.abs(meanMlOf(one) - meanMlOf(other))
}

const firstOf = (row: AlignedRow): ComparableLine => row.cells.find((c) => c) as ComparableLine

function meanMlOf({ cells }: AlignedRow): number {
  const there = cells.flatMap((c) => c?.volumeMl ?? [])
  return there.reduce((sum, v) => sum + v, 0) / there.length
}

const sorted = (rows: AlignedRow[]) => rows.sort((a, b) => meanMlOf(b) - meanMlOf(a))
