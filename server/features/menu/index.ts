/** What other features may use of this one. */

export { getMenu, loadPlanned } from './menuUseCases.ts'
