/** What other features may use of this one. */

export { LotWords } from './LotWords.tsx'
export { lotsOfQuery } from './useLots.ts'
