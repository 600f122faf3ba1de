/** What other features may use of this one. */

export { dayAsked } from './dayAsked.ts'
export { keepRecipe } from './recipes.ts'
