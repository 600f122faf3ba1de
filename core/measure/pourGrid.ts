import { type Amount, type MeasureKit, volumeMlOfAmount } from './units.ts'

/** A jigger, a spoon or a cup that the house owns, with what its sides and lines hold. */
export interface OwnedMeasure {
  name: string
  volumesMl: readonly number[]
}

/** A volume that can be measured, in the fewest moves. */
export interface GridPour {
  volumeMl: number
  /** One or two: what is filled, in order. */
  moves: { name: string; volumeMl: number }[]
}

/** Two volumes closer than this are one, ml. */
const SAME_ML = 0.05

/** What a bar without a list of its own is taken to own: two jiggers and a bar spoon, by its ounce. */
export function usualMeasures(kit: MeasureKit): OwnedMeasure[] {
  const oz = (...parts: number[]) => parts.map((p) => p * kit.ounceMl)
  return [
    { name: 'large jigger', volumesMl: oz(1, 1.5, 2) },
    { name: 'small jigger', volumesMl: oz(0.25, 0.5, 0.75) },
    { name: 'bar spoon', volumesMl: [kit.barSpoonMl] },
  ]
}

/**
 * Everything that one or two moves can measure, smallest first; of two ways the one with fewer moves,
 * then the one that fills the larger first.
 */
export function pourGrid(measures: readonly OwnedMeasure[]): GridPour[] {
  const single = measures.flatMap((m) => m.volumesMl.map((volumeMl) => ({ name: m.name, volumeMl })))
  const ways: GridPour[] = single.map((move) => ({ volumeMl: move.volumeMl, moves: [move] }))
  single.forEach((a, i) => {
    for (const b of single.slice(i)) {
      const moves = a.volumeMl >= b.volumeMl ? [a, b] : [b, a]
      ways.push({ volumeMl: a.volumeMl + b.volumeMl, moves })
    }
  })
  ways.sort((a, b) => a.volumeMl - b.volumeMl || a.moves.length - b.moves.length)
  const grid: GridPour[] = []
  for (const way of ways) {
    const last = grid[grid.length - 1]
    if (!last || way.volumeMl - last.volumeMl > SAME_ML) grid.push(way)
    else if (way.moves.length < last.moves.length) grid[grid.length - 1] = way
  }
  return grid
}

/** The pour nearest to a volume; of two as near the smaller. Undefined for an empty grid. */
export function nearestOnGrid(volumeMl: number, grid: readonly GridPour[]): GridPour | undefined {
  let best: GridPour | undefined
  for (const pour of grid) {
    if (!best || Math.abs(pour.volumeMl - volumeMl) < Math.abs(best.volumeMl - volumeMl)) best = pour
  }
  return best
}

/**
 * The next pour of a grid, up or down, in an amount's own unit; undefined for what no jigger measures and beyond either end.
 * @param gridMl rising
 */
export function nextPourOf(
  { value, unit }: Amount,
  direction: number,
  kit: MeasureKit,
  gridMl: readonly number[],
): number | undefined {
  if (unit !== 'ml' && unit !== 'cl' && unit !== 'oz') return undefined
  const each = volumeMlOfAmount({ value: 1, unit }, kit) ?? 1
  const ml = value * each
  const next = direction > 0 ? gridMl.find((g) => g > ml + SAME_ML) : gridMl.findLast((g) => g < ml - SAME_ML)
  return next === undefined ? undefined : next / each
}
