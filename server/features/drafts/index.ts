/** What other features may use of this one. */

export { endDraft } from './draftUseCases.ts'
