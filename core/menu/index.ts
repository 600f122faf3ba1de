export { type LockResult, lockEdition, type PlannedChapter, type PlannedDrink } from './lockEdition.ts'
export { type Listing, type MenuChange, menuChanges } from './menuChanges.ts'
export { hasLeft, type MovedDrink, type MovedMeasure, modelMoved, retakenStandard } from './modelMoved.ts'
export type { EditionLock, LockedDrink, MenuPlan } from './schema.ts'
