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
export {
  type IceContext,
  iceKindNamed,
  pieceG,
  type ReadIce,
  readIce,
  readSpokenIce,
} from './readIce.ts'
export type { ServeIce } from './readMethod.ts'
export {
  flagUnusual,
  type ReadPiece,
  type ReadSpec,
  readSpec,
  refusedHere,
  type SpecContext,
  type SpecLine,
  swappedWith,
} from './readSpec.ts'
export {
  countedPours,
  isUnusual,
  likelyAmount,
  shippedRange,
  siblingAmount,
  type Usual,
  type UsualRange,
  usualRange,
  usualRangeOf,
} from './usualAmount.ts'
