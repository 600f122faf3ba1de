/** What other features may use of this one. */

export { NewBlend } from './NewBlend.tsx'
