/** What other features may use of this one. */

export { dayAsked } from './dayAsked.ts'
export { keepSealed } from './keepSealed.ts'
export { keepRecipe } from './recipes.ts'
