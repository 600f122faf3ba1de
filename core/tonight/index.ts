export { type DrinkTonight, drinkTonight, type Missing } from './drinkTonight.ts'
export { fruitSlug, type OutMark, type OutShelf, outMarkOf, outsAt } from './outs.ts'
export { type EveningKnown, eveningAfter, type KnownHere, outsAfter, type SaidHere } from './saidHere.ts'
export { type ChoiceForNight, isSimplyMade, missingKey, type StandsAt, standsAt, stillCounts } from './standsAt.ts'
