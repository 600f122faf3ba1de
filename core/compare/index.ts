/** Versions held against each other fairly: what is counted alike, what stands beside what, and what changed most. */

export { type AlignedRow, alignPours } from './align.ts'
export { changedMost, changeText, type InGlass } from './changedMost.ts'
export { type Comparable, type ComparableLine, comparableOf, type MadeComparable, pouredMlOf } from './comparable.ts'
export {
  type Done,
  EQUAL_SYRUP_G_PER_100_ML,
  NORMAL_STEP_NAMES,
  NORMAL_STEPS,
  type Normalised,
  type NormalStep,
  normalise,
  USUAL_STEPS,
} from './normalise.ts'
export { comparedRemarks } from './remarks.ts'
