/** What other features may use of this one. */

export { storeEdition } from './editionUseCases.ts'
export { LOCK, lockOrRefuse } from './lockPlan.ts'
