export { type DrinkTonight, drinkTonight, type Missing } from './drinkTonight.ts'
export { fruitSlug, type OutMark, type OutShelf, outMarkOf, outsAt } from './outs.ts'
