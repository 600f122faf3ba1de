/** What other features may use of this one. */

export { Doings } from './Doings.tsx'
