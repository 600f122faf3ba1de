/** What other features may use of this one. */

export { useOwnHand } from './useOwnHand.ts'
