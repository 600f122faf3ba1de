/** A table of what the ice makes of a drink: fast, and with a stated error. */

import { MEASURE_NAMES, type MeasureName } from '../drink/index.ts'
import { abvPctOf, type Liquid, NOTHING, per100Ml, volumeMlOf } from '../liquid/index.ts'
import { type Seeded, seededRandom, solveLinear } from '../solve/index.ts'
import type { Variable } from './choices.ts'
import type { MadeGlass, Maker } from './makeGlass.ts'

export type Values = Partial<Record<MeasureName, number>>

/** A line that is moved: its place among the variables, and by how many ml. */
export type Move = readonly [place: number, byMl: number]

export interface IceTable {
  well: string
  /** What is in the glass with some lines moved. */
  look: (moves: readonly Move[]) => Values
  /** How far a look may be off: three times the most that was found where it was tried. */
  off: Values
}

const PARTS = ['waterG', 'ethanolG', 'sugarG', 'acidG', 'fatG', 'otherG'] as const satisfies readonly (keyof Liquid)[]
/** Of what is no liquid the table holds the measure itself. */
const AS_IT_IS = ['dilutionPct', 'temperatureC', 'washLinePct'] as const satisfies readonly MeasureName[]
/** Points for each unknown of the table, and as many again by half to try it. */
const POINTS_EACH = 2.2
/** A table is furthest off at the ends of what it holds: so many sets of lines at their ends try it. */
const TRIED_AT_ENDS = 120
const SAFE_TIMES = 3
/** Of the lines that are drawn, so many are at an end of what they may pour. */
const AT_AN_END = 0.6
const MOST_MOVED = 3
const SEED = 20

/**
 * Fits a table for a well: grams of what is in the glass, and what else is measured, as polynomials in the pours (all of the
 * second degree, and the third of each line), by least squares through drinks made by the full model with up to three
 * lines moved; then tried on others at the ends of what lines may pour, where it is furthest off.
 * @returns undefined where the drink as it is cannot be made
 */
export function iceTableOf(
  maker: Maker,
  variables: readonly Variable[],
  baseMl: readonly number[],
): IceTable | undefined {
  const random = seededRandom(SEED)
  const base = maker.make(baseMl)
  if (!base) return undefined
  const n = variables.length
  const unknowns = featureCount(n)
  const makeAll = (all: readonly Move[][]) =>
    all.flatMap((moves) => {
      const made = maker.make(withMoves(baseMl, variables, moves))
      return made ? [{ moves, made }] : []
    })
  const drawn = (count: number, atAnEnd: number) =>
    Array.from({ length: count }, () => drawMoves(variables, random, atAnEnd))
  const ends = variables.flatMap((v, place) => endsOf(v).map((byMl): Move[] => [[place, byMl]]))
  const points = makeAll([[], ...ends, ...drawn(Math.ceil(POINTS_EACH * unknowns), AT_AN_END)])
  const scale = variables.map((v) => Math.max(1, ...v.choices.map((c) => Math.abs(c.toMl - v.fromMl))))
  const rows = points.map((p) => featuresOf(p.moves, scale))
  const normal = Array.from({ length: unknowns }, (_, i) =>
    Array.from(
      { length: unknowns },
      (_, j) => rows.reduce((sum, r) => sum + (r[i] as number) * (r[j] as number), 0) + (i === j ? 1e-9 : 0),
    ),
  )
  const fit = (of: (made: MadeGlass) => number): number[] =>
    solveLinear(
      normal,
      Array.from({ length: unknowns }, (_, i) =>
        points.reduce((sum, p, k) => sum + ((rows[k] as number[])[i] as number) * of(p.made), 0),
      ),
    )
  const parts = PARTS.map((part) => fit((m) => m.liquid[part]))
  const others = AS_IT_IS.filter((m) => base.predictions[m]).map(
    (m) => [m, fit((made) => made.predictions[m]?.value ?? 0)] as const,
  )
  const look: IceTable['look'] = (moves) => {
    const features = movedFeatures(moves, scale)
    const of = (coefficients: readonly number[]) => {
      let sum = coefficients[0] as number
      for (const [feature, value] of features) sum += (coefficients[feature] as number) * value
      return sum
    }
    const liquid = { ...NOTHING }
    for (let i = 0; i < PARTS.length; i++)
      liquid[PARTS[i] as (typeof PARTS)[number]] = Math.max(0, of(parts[i] as number[]))
    const values: Values = {
      strengthPct: abvPctOf(liquid),
      sweetGPer100Ml: per100Ml(liquid, 'sugarG'),
      sourGPer100Ml: per100Ml(liquid, 'acidG'),
      volumeMl: volumeMlOf(liquid),
    }
    for (const [measure, coefficients] of others) values[measure] = of(coefficients)
    return values
  }
  const off: Values = {}
  for (const { moves, made } of makeAll([[], ...drawn(TRIED_AT_ENDS, 1)])) {
    const seen = look(moves)
    for (const m of MEASURE_NAMES) {
      const [is, was] = [seen[m], made.predictions[m]?.value]
      if (is !== undefined && was !== undefined) off[m] = Math.max(off[m] ?? 0, SAFE_TIMES * Math.abs(is - was))
    }
  }
  return { well: maker.well, look, off }
}

/** 1, each line, each pair of them (a line with itself, too), and each line to the third. */
const featureCount = (n: number) => 1 + n + (n * (n + 1)) / 2 + n

/** Of each moved line and each pair of them, in times the most that a line may move: all others are nothing. */
function movedFeatures(moves: readonly Move[], scale: readonly number[]): [feature: number, value: number][] {
  const n = scale.length
  const found: [number, number][] = []
  for (let a = 0; a < moves.length; a++) {
    const [i, iMl] = moves[a] as Move
    const x = iMl / (scale[i] as number)
    found.push([1 + i, x])
    for (let b = a; b < moves.length; b++) {
      const [j, jMl] = moves[b] as Move
      const [low, high] = i < j ? [i, j] : [j, i]
      // Pairs stand in rows behind the lines: 0-0, 0-1, …, 1-1, 1-2, …
      const pair = 1 + n + low * n - (low * (low - 1)) / 2 + (high - low)
      found.push([pair, (x * jMl) / (scale[j] as number)])
    }
    // Behind the pairs each line by itself, to the third.
    found.push([1 + n + (n * (n + 1)) / 2 + i, x * x * x])
  }
  return found
}

/** All of them, nothing for what does not move. */
function featuresOf(moves: readonly Move[], scale: readonly number[]): number[] {
  const n = scale.length
  const features = new Array<number>(featureCount(n)).fill(0)
  features[0] = 1
  for (const [feature, value] of movedFeatures(moves, scale)) features[feature] = value
  return features
}

/** The least and the most by which a line may move. */
function endsOf({ fromMl, choices }: Variable): number[] {
  const all = choices.map((c) => c.toMl - fromMl)
  return [Math.min(0, ...all), Math.max(0, ...all)].filter((byMl) => byMl !== 0)
}

/** Up to three lines, each anywhere that it may pour. @param atAnEnd how many of them are at an end, 0 to 1 */
function drawMoves(variables: readonly Variable[], { uniform }: Seeded, atAnEnd: number): Move[] {
  const places = variables.map((_, i) => i)
  const count = 1 + Math.floor(uniform() * Math.min(MOST_MOVED, places.length))
  return Array.from({ length: count }, (): Move => {
    const [place = 0] = places.splice(Math.floor(uniform() * places.length), 1)
    const ends = endsOf(variables[place] as Variable)
    const [low, high] = [Math.min(0, ...ends), Math.max(0, ...ends)]
    const isAtEnd = uniform() < atAnEnd
    const part = uniform()
    return [place, isAtEnd ? (ends[Math.floor(part * ends.length)] as number) : low + part * (high - low)]
  })
}

/** Every line's volume with some of them moved. */
export function withMoves(baseMl: readonly number[], variables: readonly Variable[], moves: readonly Move[]): number[] {
  const volumes = [...baseMl]
  for (const [place, byMl] of moves) {
    const { index, fromMl } = variables[place] as Variable
    volumes[index] = fromMl + byMl
  }
  return volumes
}
