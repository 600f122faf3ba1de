/** The other way round: from what must be in the glass to the nearest pours that a jigger can measure. */

export type { LineLimits, TuneAnswer, TuneAsked, TunedGlass, TunedLine, TuneEffort, TuneResult } from './asked.ts'
export { choicesOf, type Variable } from './choices.ts'
export { costOfServe, costsPerMl, unpricedLines } from './costOf.ts'
export { makersOf, wellsThatMake } from './makeGlass.ts'
export { A_TOUCH, askedFor, TARGETS, type Target, type TargetAsked, type TargetNow } from './targets.ts'
export { MOST_LINES_MOVED, tune, tuning } from './tune.ts'
