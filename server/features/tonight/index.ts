/** What other features may use of this one. */

export { endOutsOf } from './outUseCases.ts'
export { drinksOff, getTonight } from './showTonight.ts'
