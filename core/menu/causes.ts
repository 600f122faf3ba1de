import { type DrinkDocument, glassFor, MEASURE_NAMES, type MeasureName, type Predictions } from '../drink/index.ts'
import type { HouseBook } from '../house/index.ts'
import { type Change, changesSince } from './changesSince.ts'

/** What moved a drink: a change, several pooled, the model of the ice, or what none of them explains. */
export type Cause = Change | { kind: 'model' } | { kind: 'pooled'; changes: Change[] } | { kind: 'rest' }

/** What moved one measure, and each cause's share of it: the shares add up to all of it. */
export interface MeasureMoved {
  was: number
  now: number
  /** In the order of the causes. */
  shares: number[]
}

export interface Causes {
  causes: Cause[]
  measures: Partial<Record<MeasureName, MeasureMoved>>
}

export type CausesResult = { ok: true; moved: Causes } | { ok: false; reason: string }

/** With so many, every order in which they may have happened is counted; what moves less is pooled. */
export const MOST_APART = 8
/** A share smaller than this is the rounding of a computer. */
const NOTHING = 1e-9

export interface CausesAsked {
  document: DrinkDocument
  /** The house as the edition locked it, and what was in the glass then. */
  locked: HouseBook
  lockedPredictions: Predictions
  today: HouseBook
  well: string
}

type Values = Partial<Record<MeasureName, number>>

/**
 * Why a drink is not what its edition locked: the difference of each measure, shared out among the things that changed
 * since. Shapley values: the mean of what a change does over every order in which all of them may have happened
 * (L. S. Shapley, A value for n-person games, 1953); exact to `MOST_APART` changes, what moves least is taken together
 * beyond. The model of the ice comes first, as another model says the same of what was then; what no change explains
 * is said as such. Costs 2^n glasses.
 */
export function causesOf(asked: CausesAsked): CausesResult {
  const { document, lockedPredictions, today, well } = asked
  const now = valuesAt(document, today, well)
  if (!now) return { ok: false, reason: 'it cannot be computed today' }
  const since = changesSince({ locked: asked.locked, today, well })
  const changes = since.changes.filter((c) => since.feels(document, c))
  const after = (made: readonly Change[]) => valuesAt(document, since.houseWith(made), well)
  const before = after([])
  if (!before) return { ok: false, reason: 'it cannot be computed with the house as it was' }
  const groups = grouped(changes, before, after)
  const worth = valuesOfAll(groups, after)
  if (!worth) return { ok: false, reason: 'it cannot be computed with only a part of what changed' }
  const causes: Cause[] = [
    { kind: 'model' },
    ...groups.map((g): Cause => (g.length === 1 ? (g[0] as Change) : { kind: 'pooled', changes: g })),
    { kind: 'rest' },
  ]
  const all = worth[worth.length - 1] as Values
  const measures: Causes['measures'] = {}
  for (const name of MEASURE_NAMES) {
    const [then, is] = [lockedPredictions[name]?.value, now[name]]
    const [start, end] = [before[name], all[name]]
    if (then === undefined || is === undefined || start === undefined || end === undefined) continue
    const shares = shapley(
      groups.length,
      worth.map((w) => w[name] ?? start),
    )
    measures[name] = { was: then, now: is, shares: [start - then, ...shares, is - end] }
  }
  return { ok: true, moved: withoutNothing({ causes, measures }) }
}

function valuesAt(document: DrinkDocument, book: HouseBook, well: string): Values | undefined {
  const glass = glassFor(document, book, well)
  if (!glass.ok) return undefined
  return Object.fromEntries(MEASURE_NAMES.map((m) => [m, glass.result.predictions[m]?.value]))
}

/** Each change by itself; beyond so many the ones that alone move the least together. */
function grouped(
  changes: readonly Change[],
  before: Values,
  after: (made: readonly Change[]) => Values | undefined,
): Change[][] {
  if (changes.length <= MOST_APART) return changes.map((c) => [c])
  const byMove = changes
    .map((change) => ({ change, move: distance(before, after([change])) }))
    .sort((a, b) => b.move - a.move)
  const apart = new Set(byMove.slice(0, MOST_APART - 1).map((m) => m.change))
  return [...changes.filter((c) => apart.has(c)).map((c) => [c]), changes.filter((c) => !apart.has(c))]
}

function distance(a: Values, b: Values | undefined): number {
  if (!b) return Number.POSITIVE_INFINITY
  return MEASURE_NAMES.reduce((sum, m) => {
    const [x, y] = [a[m], b[m]]
    return x === undefined || y === undefined ? sum : sum + Math.abs(x - y) / Math.max(1e-6, Math.abs(x))
  }, 0)
}

/** What is in the glass after each set of changes; the set as the bits of the index. */
function valuesOfAll(
  groups: readonly Change[][],
  after: (made: readonly Change[]) => Values | undefined,
): Values[] | undefined {
  const found: Values[] = []
  for (let set = 0; set < 2 ** groups.length; set++) {
    const values = after(groups.flatMap((g, i) => (set & (1 << i) ? g : [])))
    if (!values) return undefined
    found.push(values)
  }
  return found
}

/**
 * The Shapley value of each player of a game.
 * @param worth of every coalition, by the bits of its index
 * @returns one for each, which add up to worth of all less worth of none
 */
export function shapley(players: number, worth: readonly number[]): number[] {
  const factorial = (n: number): number => (n <= 1 ? 1 : n * factorial(n - 1))
  const orders = factorial(players)
  const shares = new Array<number>(players).fill(0)
  for (let set = 0; set < 2 ** players; set++) {
    let size = 0
    for (let bits = set; bits > 0; bits &= bits - 1) size++
    for (let i = 0; i < players; i++) {
      if (set & (1 << i)) continue
      const weight = (factorial(size) * factorial(players - size - 1)) / orders
      shares[i] = (shares[i] as number) + weight * ((worth[set | (1 << i)] as number) - (worth[set] as number))
    }
  }
  return shares
}

/** Without causes that moved nothing. */
function withoutNothing({ causes, measures }: Causes): Causes {
  const all = Object.entries(measures) as [MeasureName, MeasureMoved][]
  const kept = causes.map((_, i) => all.some(([, m]) => Math.abs(m.shares[i] ?? 0) > NOTHING))
  return {
    causes: causes.filter((_, i) => kept[i]),
    measures: Object.fromEntries(all.map(([name, m]) => [name, { ...m, shares: m.shares.filter((_, i) => kept[i]) }])),
  }
}
