/** What other features may use of this one. */

export { People } from './People.tsx'
