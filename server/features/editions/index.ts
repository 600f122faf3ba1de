/** What other features may use of this one. */

export { LOCK, lockOrRefuse, readLock, writeLock } from './lockPlan.ts'
