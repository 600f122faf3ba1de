/** What other features may use of this one. */

export { DealDialog } from './DealDialog.tsx'
export { Letters } from './Letters.tsx'
export { MyHalf } from './MyHalf.tsx'
export { OthersKnow } from './OthersKnow.tsx'
export { useMyPrep } from './useMyPrep.ts'
