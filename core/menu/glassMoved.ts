/** What a change does to a drink at a well: which measures move, as they are read, and what is to be minded anew. */

import { MEASURE_NAMES, MEASURES, type MeasureName, type Standing, standingOf } from '../drink/index.ts'
import type { KeptGlass } from './keptGlassSchema.ts'

export interface MeasureMove {
  measure: MeasureName
  was: number
  is: number
  /** Against the drink's standard. */
  wasStanding: Standing
  isStanding: Standing
}

export interface GlassMoved {
  moved: MeasureMove[]
  /** Words that are said from then on; those that are not said any more. */
  said: string[]
  unsaid: string[]
  /** Allergens that come in, and that go. */
  allergensIn: string[]
  allergensOut: string[]
}

const isOut = (standing: Standing) => standing === 'below' || standing === 'above'

/** As finely as a menu shows it: what is read the same has not moved. */
const shown = (measure: MeasureName, value: number) => Number(value.toFixed(MEASURES[measure].digits))

/** @returns undefined where nothing that anybody reads is another */
export function glassMoved(before: KeptGlass, after: KeptGlass): GlassMoved | undefined {
  const moved = MEASURE_NAMES.flatMap((measure): MeasureMove[] => {
    const [was, is] = [before.predictions[measure], after.predictions[measure]]
    if (!was || !is || shown(measure, was.value) === shown(measure, is.value)) return []
    return [
      {
        measure,
        was: shown(measure, was.value),
        is: shown(measure, is.value),
        wasStanding: standingOf(was, before.standard[measure]),
        isStanding: standingOf(is, after.standard[measure]),
      },
    ]
  })
  const wordsOf = ({ cautions, problems }: KeptGlass) => [
    // That something is outside its standard is said with what moved.
    ...cautions.filter((c) => c.code !== 'drift').map((c) => c.text),
    ...problems.map((p) => `cannot be made: ${p.message}`),
  ]
  const without = (all: readonly string[], others: readonly string[]) => all.filter((w) => !others.includes(w))
  const [was, is] = [wordsOf(before), wordsOf(after)]
  const found = {
    moved,
    said: without(is, was),
    unsaid: without(was, is),
    allergensIn: without(after.allergens, before.allergens),
    allergensOut: without(before.allergens, after.allergens),
  }
  return Object.values(found).some((list) => list.length > 0) ? found : undefined
}

/** Whether a measure leaves its standard by it, or comes back into it. */
export const leaves = (m: MeasureMove): boolean => isOut(m.isStanding) && !isOut(m.wasStanding)
export const comesBack = (m: MeasureMove): boolean => isOut(m.wasStanding) && !isOut(m.isStanding)
