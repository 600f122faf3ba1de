export {
  type Cause,
  type Causes,
  type CausesAsked,
  type CausesResult,
  causesOf,
  MOST_APART,
  shapley,
} from './causes.ts'
export { type Change, type ChangeKind, changesSince, type Since } from './changesSince.ts'
export { comesBack, type GlassMoved, glassMoved, leaves, type MeasureMove } from './glassMoved.ts'
export { atMoment, keptGlassOf } from './keptGlass.ts'
export type { KeptGlass } from './keptGlassSchema.ts'
export { type LockResult, lockEdition, type PlannedChapter, type PlannedDrink } from './lockEdition.ts'
export { type Listing, type MenuChange, menuChanges } from './menuChanges.ts'
export { hasLeft, type MovedDrink, type MovedMeasure, modelMoved, retakenStandard } from './modelMoved.ts'
export { planWith } from './planWith.ts'
export type { EditionLock, LockedDrink, MenuPlan } from './schema.ts'
