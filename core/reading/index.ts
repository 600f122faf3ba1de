export {
  BOTTLE_COLUMNS,
  type BottleColumn,
  type BottleRow,
  type CellProblem,
  readBottleRow,
  toBottleRow,
} from './bottleRow.ts'
export { type Match, matchIngredient, matchSlot, sureMatch } from './matchIngredient.ts'
export { type ReadFigure, readGrams, readPrice, readSize, readStrength, readSugar } from './readFigures.ts'
export { flagUnusual, type ReadSpec, readSpec, type SpecContext, type SpecLine, swappedWith } from './readSpec.ts'
export { likelyAmount, shippedRange, type Usual, type UsualRange, usualRange } from './usualAmount.ts'
