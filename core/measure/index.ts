export { amountLike } from './amountLike.ts'
export { amountText, unitText, valueText } from './amountText.ts'
export { type JiggerMove, type JiggerMoves, jiggerMoves } from './jiggerMoves.ts'
export { NUMBER_PATTERN, readNumber } from './numbers.ts'
export { type GridPour, nearestOnGrid, nextPourOf, type OwnedMeasure, pourGrid, usualMeasures } from './pourGrid.ts'
export { type ReadAmount, readAmount, toFraction } from './readAmount.ts'
export { ASSUMED_FRUIT_ML, type FruitMl, type LineContext, type LineFlag, type ReadLine, readLine } from './readLine.ts'
export {
  type Amount,
  DEFAULT_KIT,
  DEFAULT_SPRAY_ML,
  isCounted,
  KIT_KEYS,
  type MeasureKit,
  OUNCES_ML,
  UNIT_NAMES,
  UNITS,
  type Unit,
  unitNamed,
  volumeMlOfAmount,
} from './units.ts'
