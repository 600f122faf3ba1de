import { type DrinkDocument, MEASURE_NAMES, MEASURES } from '../drink/index.ts'
import { distanceFrom, followFill } from '../means/index.ts'
import { amountLike, isCounted, volumeMlOfAmount } from '../measure/index.ts'
import type { TuneAnswer, TuneAsked, TunedGlass, TuneEffort, TuneResult } from './asked.ts'
import { choicesOf, type Variable } from './choices.ts'
import { costsPerMl, unpricedLines } from './costOf.ts'
import { type IceTable, iceTableOf, type Move, type Values, withMoves } from './iceTable.ts'
import { type Maker, makersOf } from './makeGlass.ts'

/** Nobody learns a spec anew: more lines than these are another drink. */
export const MOST_LINES_MOVED = 3
/** Answers that stand beside each other. */
const MOST_ANSWERS = 3
/** Of those that nothing meets, so many are made to find the nearest. */
const NEAREST_MADE = 40
/** Two lines keep their ratio within this part of it: a jigger cannot do better. */
const SAME_RATIO = 0.04
/** Between two words about how far it is. */
const LOOKED_EACH = 4000

/** Pours that may do it. */
interface Candidate {
  moves: Move[]
  steps: number
  /** By the table: how far from the middle of the bands. */
  far: number
}

/** Everything that does not change while it searches. */
interface Search {
  asked: TuneAsked
  variables: Variable[]
  /** With what may be put in, at a volume that stands for it. */
  document: DrinkDocument
  baseMl: number[]
  makers: Maker[]
  tables: IceTable[]
  costs: (number | undefined)[]
  effort: TuneEffort
}

/** @see tuning; all of it at once. */
export function tune(asked: TuneAsked): TuneResult {
  const run = tuning(asked)
  for (;;) {
    const { done, value } = run.next()
    if (done) return value
  }
}

/**
 * The nearest pours with which a drink meets its standard at every well asked for: fewest lines changed, then fewest steps on
 * the house's pour grid, then nearest the middle of the windows; up to three lines, exactly. What the ice makes of each set of
 * pours is looked up in a table whose error is measured; whatever may be in the standard by that is made again by the
 * full model, and only what the model says counts. Up to three answers that change different lines, none of them more
 * lines than needed.
 * @yields how much of the search is done, 0 to 1; whoever stops asking has stopped it
 */
export function* tuning(asked: TuneAsked): Generator<number, TuneResult> {
  const begun = begin(asked)
  if ('outcome' in begun) return begun
  yield 0.05
  const search = begun
  const nearest: Candidate[] = []
  const answers: TuneAnswer[] = []
  const solved: number[][] = []
  for (let count = 1; count <= MOST_LINES_MOVED && answers.length < MOST_ANSWERS; count++) {
    const found: Candidate[] = []
    for (const places of subsets(search.variables.length, count)) {
      // More lines than an answer needs are none.
      if (solved.some((s) => s.every((p) => places.includes(p)))) continue
      for (const moves of movesOf(search.variables, places)) {
        if (!keepsRatio(search, moves)) continue
        search.effort.looked++
        if (search.effort.looked % LOOKED_EACH === 0) yield Math.min(0.9, 0.05 + 0.25 * count)
        const { far, mayMeet } = look(search, moves)
        const steps = moves.reduce((sum, [place, byMl]) => sum + stepsOf(search.variables[place] as Variable, byMl), 0)
        if (mayMeet) found.push({ moves, steps, far })
        else keepNearest(nearest, { moves, steps, far })
      }
    }
    yield* answersAmong(search, found, answers, solved)
  }
  if (answers.length > 0) return { outcome: 'found', answers, effort: search.effort }
  return { outcome: 'none', closest: closestOf(search, nearest), effort: search.effort }
}

function begin(asked: TuneAsked): Search | TuneResult {
  const { document, standard, book, wells } = asked
  for (const measure of MEASURE_NAMES) {
    const band = standard[measure]
    if (band && band.low > band.high)
      return {
        outcome: 'contradiction',
        reason: `${MEASURES[measure].label}: the window is empty, ${band.low} to ${band.high}`,
      }
  }
  const hasTarget =
    MEASURE_NAMES.some((m) => standard[m]) || asked.mostCost !== undefined || asked.mostAlcoholG !== undefined
  if (!hasTarget) return { outcome: 'noStandard' }
  const chosen = choicesOf(asked)
  const added = (asked.mayAdd ?? []).map(({ ingredient }): DrinkDocument['pours'][number] => ({
    ingredient,
    volumeMl: 1,
    into: 'tin',
  }))
  const whole = { ...document, pours: [...document.pours, ...added] }
  const made = makersOf(whole, book, wells)
  if (!made.ok) return { outcome: 'problem', problems: made.problems }
  const costs = costsPerMl(whole, book, wells[0] ?? '')
  const unpriced = unpricedLines(document, book, wells[0] ?? '')
  if (asked.mostCost !== undefined && unpriced.length > 0)
    return { outcome: 'contradiction', reason: `what it costs is not known: no price for ${unpriced.join(', ')}` }
  const { kit } = book.settings
  const baseMl = whole.pours.map((line, i) =>
    i >= document.pours.length
      ? 0
      : (line.volumeMl ?? (line.amount && volumeMlOfAmount(line.amount, kit, document.partMl)) ?? 0),
  )
  const effort = { looked: 0, made: 0, tableOff: {} }
  const bare: Search = { asked, variables: [], document: whole, baseMl, makers: made.makers, tables: [], costs, effort }
  const asItIs = answerOf(bare, [])
  if (asItIs?.isMet) return { outcome: 'meets', answer: asItIs.answer }
  if (!chosen.ok) return { outcome: 'contradiction', reason: chosen.reason }
  const tables: IceTable[] = []
  for (const maker of made.makers) {
    const table = iceTableOf(maker, chosen.variables, baseMl)
    if (!table)
      return { outcome: 'problem', problems: [{ path: [], message: 'it is outside of what the model knows' }] }
    tables.push(table)
  }
  for (const m of MEASURE_NAMES) {
    const off = Math.max(0, ...tables.map((t) => t.off[m] ?? 0))
    if (off > 0) (effort.tableOff as Values)[m] = off
  }
  return { ...bare, variables: chosen.variables, tables }
}

/** Every choice of so many of n places, in order. */
function* subsets(n: number, count: number, from = 0): Generator<number[]> {
  if (count === 0) {
    yield []
    return
  }
  for (let i = from; i <= n - count; i++) for (const rest of subsets(n, count - 1, i + 1)) yield [i, ...rest]
}

/** Every way in which these lines can all pour otherwise. */
function* movesOf(variables: readonly Variable[], [place, ...rest]: readonly number[]): Generator<Move[]> {
  if (place === undefined) {
    yield []
    return
  }
  const { fromMl, choices } = variables[place] as Variable
  for (const { toMl } of choices)
    for (const others of movesOf(variables, rest)) yield [[place, toMl - fromMl], ...others]
}

const stepsOf = ({ fromMl, choices }: Variable, byMl: number): number =>
  choices.find((c) => Math.abs(c.toMl - fromMl - byMl) < 1e-9)?.steps ?? 0

function keepsRatio({ asked, variables, baseMl }: Search, moves: readonly Move[]): boolean {
  const { keepRatio } = asked
  if (!keepRatio) return true
  const times = keepRatio.map((index) => {
    const move = moves.find(([place]) => variables[place]?.index === index)
    const fromMl = baseMl[index] as number
    return move ? (fromMl + move[1]) / fromMl : 1
  })
  return Math.abs((times[0] as number) / (times[1] as number) - 1) <= SAME_RATIO
}

/** By the tables of all wells: how far it is, and whether it may be in the standard. */
function look({ asked, tables }: Search, moves: readonly Move[]): { far: number; mayMeet: boolean } {
  let far = 0
  let mayMeet = true
  for (const table of tables) {
    const seen = table.look(moves)
    for (const measure of MEASURE_NAMES) {
      const band = asked.standard[measure]
      const value = seen[measure]
      if (!band || value === undefined) continue
      const half = Math.max(1e-6, (band.high - band.low) / 2)
      const from = Math.abs(value - (band.low + band.high) / 2)
      far = Math.max(far, from / half)
      if (from > half + (table.off[measure] ?? 0)) mayMeet = false
    }
  }
  return { far, mayMeet }
}

function keepNearest(nearest: Candidate[], candidate: Candidate): void {
  if (nearest.length === NEAREST_MADE && candidate.far >= (nearest[nearest.length - 1] as Candidate).far) return
  const place = nearest.findIndex((n) => n.far > candidate.far)
  nearest.splice(place < 0 ? nearest.length : place, 0, candidate)
  if (nearest.length > NEAREST_MADE) nearest.pop()
}

/** How much the table may be off, in half widths of the bands. */
function farOff({ asked, tables }: Search): number {
  return Math.max(
    0,
    ...tables.flatMap((t) =>
      MEASURE_NAMES.map((m) => {
        const band = asked.standard[m]
        return band ? (t.off[m] ?? 0) / Math.max(1e-6, (band.high - band.low) / 2) : 0
      }),
    ),
  )
}

/** The best of each set of lines, fewest steps first: made by the full model. */
function* answersAmong(
  search: Search,
  found: Candidate[],
  answers: TuneAnswer[],
  solved: number[][],
): Generator<number, void> {
  const margin = farOff(search)
  found.sort((a, b) => a.steps - b.steps || a.far - b.far)
  for (let from = 0; from < found.length && answers.length < MOST_ANSWERS; ) {
    const { steps } = found[from] as Candidate
    let to = from
    while (found[to]?.steps === steps) to++
    const best = new Map<string, { places: number[]; answer: TuneAnswer }>()
    for (const candidate of found.slice(from, to)) {
      const places = candidate.moves.map(([place]) => place)
      if (solved.some((s) => s.every((p) => places.includes(p)))) continue
      const key = places.join()
      const known = best.get(key)
      // The table cannot be off by more than that: it is no nearer to the middle.
      if (known && candidate.far - margin > known.answer.worst) continue
      const made = answerOf(search, candidate.moves)
      if (made?.isMet && (!known || made.answer.worst < known.answer.worst))
        best.set(key, { places, answer: made.answer })
      if (search.effort.made % 50 === 0) yield 0.9
    }
    const sets = [...best.values()].sort((a, b) => a.answer.worst - b.answer.worst)
    for (const { places, answer } of sets) {
      if (answers.length === MOST_ANSWERS) break
      answers.push(answer)
      solved.push(places)
    }
    from = to
  }
}

function closestOf(search: Search, nearest: readonly Candidate[]): TuneAnswer | undefined {
  let best: TuneAnswer | undefined
  for (const { moves } of nearest) {
    const made = answerOf(search, moves)
    if (made && (!best || made.answer.worst < best.worst)) best = made.answer
  }
  return best
}

/** The drink with these pours, made by the full model at every well; undefined: outside of what that knows. */
function answerOf(search: Search, moves: readonly Move[]): { answer: TuneAnswer; isMet: boolean } | undefined {
  const { asked, variables, makers, baseMl, costs, effort } = search
  const volumes = withMoves(baseMl, variables, moves)
  effort.made++
  const glasses: TunedGlass[] = []
  let worst = 0
  let alcoholG = 0
  for (const { well, make } of makers) {
    const made = make(volumes)
    if (!made) return undefined
    const distance = distanceFrom(made, asked.standard)
    worst = Math.max(worst, distance.worst)
    alcoholG = Math.max(alcoholG, made.liquid.ethanolG / asked.document.serves)
    glasses.push({ well, predictions: made.predictions, overflowMl: made.overflowMl, misses: distance.misses })
  }
  const cost = costWith(volumes, costs, asked.document.serves)
  const isMet =
    glasses.every((g) => g.misses.length === 0) &&
    (asked.mostAlcoholG === undefined || alcoholG <= asked.mostAlcoholG + 1e-9) &&
    (asked.mostCost === undefined || (cost !== undefined && cost <= asked.mostCost + 1e-9))
  const lines = moves
    .map(([place, byMl]) => {
      const v = variables[place] as Variable
      return { index: v.index, name: v.name, fromMl: v.fromMl, toMl: v.fromMl + byMl, steps: stepsOf(v, byMl) }
    })
    .sort((a, b) => a.index - b.index)
  const answer = {
    document: withPours(
      asked,
      volumes,
      lines.map((l) => l.index),
    ),
    lines,
    steps: lines.reduce((sum, l) => sum + l.steps, 0),
    glasses,
    worst,
    cost,
    alcoholG,
  }
  return { answer, isMet }
}

function costWith(
  volumes: readonly number[],
  costs: readonly (number | undefined)[],
  serves: number,
): number | undefined {
  let sum = 0
  for (const [i, ml] of volumes.entries()) {
    const each = costs[i]
    if (ml > 0 && each === undefined) return undefined
    sum += ml * (each ?? 0)
  }
  return sum / serves
}

/** The document with other amounts in these lines, each written as it was; ice that fills the glass follows. */
function withPours(
  { document, book, mayAdd = [] }: TuneAsked,
  volumes: readonly number[],
  moved: readonly number[],
): DrinkDocument {
  const { kit } = book.settings
  const pours = document.pours.map((line, i) => {
    if (!moved.includes(i)) return line
    const { volumeMl: _, amount, ...rest } = line
    const toMl = volumes[i] as number
    if (!amount) return { ...rest, volumeMl: toMl }
    const each = isCounted(amount.unit) && volumeMlOfAmount({ value: 1, unit: amount.unit }, kit, document.partMl)
    return {
      ...rest,
      amount: each
        ? { value: Number((toMl / each).toFixed(4)), unit: amount.unit }
        : amountLike(amount, toMl, kit.ounceMl),
    }
  })
  const added = mayAdd.flatMap(({ ingredient }, i): DrinkDocument['pours'] => {
    const toMl = volumes[document.pours.length + i] as number
    return toMl > 0
      ? [{ ingredient, amount: amountLike(document.pours[0]?.amount, toMl, kit.ounceMl), into: 'tin' }]
      : []
  })
  return followFill({ ...document, pours: [...pours, ...added] }, book)
}
