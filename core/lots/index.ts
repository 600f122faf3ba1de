export { endOf, type LotStanding, lotsTurnOn, measuredOf, staleOfLot, standingOfLot } from './lot.ts'
export type { Lot, LotDocument, LotEvent } from './lotSchema.ts'
export {
  brixOf,
  figuresOf,
  type Measured,
  MOST_ABV_FOR_BRIX_PCT,
  saturationBrixIn,
  sugarInWaterBrix,
  withMeasured,
} from './measured.ts'
export { type FruitYield, fruitFor, fruitYieldOf } from './pressing.ts'
export { daysOf, dayWords, type Keeps, keepsOf } from './shelfLife.ts'
