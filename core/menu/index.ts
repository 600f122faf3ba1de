export { type LockResult, lockEdition, type PlannedChapter, type PlannedDrink } from './lockEdition.ts'
export { type Listing, type MenuChange, menuChanges } from './menuChanges.ts'
export type { EditionLock, LockedDrink, MenuPlan } from './schema.ts'
