import { pourName } from '../drink/index.ts'
import { isCounted, pourGrid, usualMeasures, volumeMlOfAmount } from '../measure/index.ts'
import type { TuneAsked } from './asked.ts'

/** A line, or what may be put in, with everything that it may pour. */
export interface Variable {
  index: number
  name: string
  fromMl: number
  /** Without what it pours now; the nearest first, of two as near the smaller. */
  choices: { toMl: number; steps: number }[]
}

/** Nobody tunes a line to less than this part of itself, or to more than so many times, unless limits say otherwise. */
const LEAST_PART = 0.5
const MOST_TIMES = 2
/** A pour and a grid value closer than this are the same, ml. */
const SAME_ML = 0.05

export type Choices = { ok: true; variables: Variable[] } | { ok: false; reason: string }

/** What every line may pour: on the grid of the house's jiggers, counted things by ones. */
export function choicesOf({ document, book, lines = {}, mayAdd = [] }: TuneAsked): Choices {
  const { kit, measures } = book.settings
  const grid = pourGrid(measures ?? usualMeasures(kit)).map((g) => g.volumeMl)
  const variables: Variable[] = []
  for (const [index, line] of document.pours.entries()) {
    const name = pourName(line, book)
    const { isLocked, leastMl, mostMl } = lines[index] ?? {}
    if (leastMl !== undefined && mostMl !== undefined && leastMl > mostMl)
      return { ok: false, reason: `${name}: at least ${leastMl} ml is more than at most ${mostMl} ml` }
    const fromMl = line.volumeMl ?? (line.amount && volumeMlOfAmount(line.amount, kit, document.partMl))
    if (isLocked || fromMl === undefined || !(fromMl > 0)) continue
    const low = leastMl ?? fromMl * LEAST_PART
    const high = mostMl ?? fromMl * MOST_TIMES
    const each =
      line.amount && isCounted(line.amount.unit)
        ? volumeMlOfAmount({ value: 1, unit: line.amount.unit }, kit, document.partMl)
        : undefined
    const values =
      each === undefined ? grid : Array.from({ length: Math.floor(high / each + 1e-9) }, (_, i) => each * (i + 1))
    const choices = stepsFrom(fromMl, values).filter((c) => c.toMl >= low - SAME_ML && c.toMl <= high + SAME_ML)
    if (fromMl < low - SAME_ML || fromMl > high + SAME_ML)
      return { ok: false, reason: `${name}: it pours ${fromMl} ml now, which its own limits do not allow` }
    if (choices.length > 0) variables.push({ index, name, fromMl, choices })
  }
  for (const [i, { ingredient, mostMl }] of mayAdd.entries()) {
    const choices = stepsFrom(0, grid).filter((c) => c.toMl <= mostMl + SAME_ML)
    const name = pourName({ ingredient }, book)
    if (choices.length > 0) variables.push({ index: document.pours.length + i, name, fromMl: 0, choices })
  }
  if (variables.length === 0) return { ok: false, reason: 'every line is locked, and nothing may be put in' }
  return { ok: true, variables }
}

/** Every value but the one it is at, with how many steps of the grid lie between. */
function stepsFrom(fromMl: number, values: readonly number[]): { toMl: number; steps: number }[] {
  const above = values.filter((v) => v > fromMl + SAME_ML)
  const below = values.filter((v) => v < fromMl - SAME_ML).reverse()
  return [
    ...below.map((toMl, i) => ({ toMl, steps: i + 1 })),
    ...above.map((toMl, i) => ({ toMl, steps: i + 1 })),
  ].sort((a, b) => a.steps - b.steps || a.toMl - b.toMl)
}
