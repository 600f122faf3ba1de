/** What other features may use of this one. */

export { DecideDialog } from './DecideDialog.tsx'
export { decide } from './decide.ts'
