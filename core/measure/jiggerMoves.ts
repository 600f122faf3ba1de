import type { OwnedMeasure } from './pourGrid.ts'

/** One filling of a jigger's side or a spoon. */
export interface JiggerMove {
  name: string
  volumeMl: number
  /** How often in a row. */
  times: number
}

/** How a volume is measured out with what a house owns. */
export interface JiggerMoves {
  moves: JiggerMove[]
  /** What they come to, ml: as near to what is wanted as the jiggers go. */
  volumeMl: number
}

/** Nobody counts further with wet hands. */
const MOST_MOVES = 8
/** Volumes are added up in steps of this, ml: finer than any jigger. */
const STEP_ML = 0.05

/**
 * The fewest fillings that come nearest to a volume: exact, over every sum of up to eight. Of two as near, the one with fewer
 * fillings; of those, the one that fills the larger first.
 * @returns undefined where the house owns nothing, or nothing of it comes within half of the volume
 */
export function jiggerMoves(volumeMl: number, measures: readonly OwnedMeasure[]): JiggerMoves | undefined {
  const sides = measures
    .flatMap(({ name, volumesMl }) => volumesMl.map((ml) => ({ name, volumeMl: ml, steps: Math.round(ml / STEP_ML) })))
    .filter((s) => s.steps > 0)
    .sort((a, b) => b.volumeMl - a.volumeMl)
  const wanted = Math.round(volumeMl / STEP_ML)
  if (sides.length === 0 || !(wanted > 0)) return undefined
  // More than so much over is further off than nothing would be.
  const most = wanted + Math.floor(wanted / 2)
  const fewest = new Array<number>(most + 1).fill(Number.POSITIVE_INFINITY)
  const last = new Array<number>(most + 1).fill(-1)
  fewest[0] = 0
  for (let sum = 1; sum <= most; sum++)
    sides.forEach(({ steps }, side) => {
      const before = sum >= steps ? (fewest[sum - steps] as number) : Number.POSITIVE_INFINITY
      if (before + 1 < (fewest[sum] as number)) {
        fewest[sum] = before + 1
        last[sum] = side
      }
    })
  let best: number | undefined
  for (let off = 0; off <= wanted / 2 && best === undefined; off++)
    for (const sum of off === 0 ? [wanted] : [wanted - off, wanted + off])
      if (sum > 0 && (fewest[sum] ?? MOST_MOVES + 1) <= MOST_MOVES)
        if (best === undefined || (fewest[sum] as number) < (fewest[best] as number)) best = sum
  if (best === undefined) return undefined
  const moves: JiggerMove[] = []
  let left = best
  let filledMl = 0
  const used: number[] = []
  while (left > 0) {
    const side = last[left] as number
    used.push(side)
    left -= (sides[side] as (typeof sides)[number]).steps
  }
  for (const side of used.sort((a, b) => a - b)) {
    const { name, volumeMl: ml } = sides[side] as (typeof sides)[number]
    filledMl += ml
    const before = moves.at(-1)
    if (before?.name === name && before.volumeMl === ml) before.times++
    else moves.push({ name, volumeMl: ml, times: 1 })
  }
  return { moves, volumeMl: filledMl }
}
