export { amountText, unitText, valueText } from './amountText.ts'
export { type ReadAmount, readAmount, toFraction } from './readAmount.ts'
export {
  type Amount,
  DEFAULT_KIT,
  type MeasureKit,
  OUNCES_ML,
  UNIT_NAMES,
  UNITS,
  type Unit,
  unitNamed,
  volumeMlOfAmount,
} from './units.ts'
