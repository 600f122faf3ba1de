/** What other features may use of this one. */

export { type InTonight, inDrinksTonight } from './allergensTonight.ts'
export { endOutsOf } from './outUseCases.ts'
export { getTonight } from './showTonight.ts'
export { glassesTonight } from './tonightGlass.ts'
