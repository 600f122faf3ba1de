/** What other features may use of this one. */

export { writeLot } from './lotUseCases.ts'
