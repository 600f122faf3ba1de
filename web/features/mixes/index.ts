/** What other features may use of this one. */

export { ClosedMix } from './ClosedMix.tsx'
export { DraftActions } from './DraftActions.tsx'
export { EarlierLots, Notes } from './MixMargin.tsx'
export { type Opened, OpenWithDraft, partsOfDraft } from './OpenWithDraft.tsx'
export { RecipeHistory } from './RecipeHistory.tsx'
export { type MixDraft, useMixDraft } from './useMixDraft.ts'
export { WhereUsed } from './WhereUsed.tsx'
