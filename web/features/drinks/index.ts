/** What other features may use of this one. */

export { PasteSpec } from './PasteSpec.tsx'
