/** What other features may use of this one. */

export { trialsQuery } from './useTrials.ts'
