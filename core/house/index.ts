export {
  ALLERGENS,
  type Allergen,
  BUILD_ORDERS,
  type BuildOrder,
  INGREDIENT_KINDS,
  type IngredientKind,
  isWeighed,
  PLACES,
  type Place,
  SAFETY_DEFERRAL,
  STOCK_STATES,
  type StockState,
} from '../schema/lists.ts'
export {
  bySlug,
  type HouseBook,
  isAcidPowder,
  isThereAt,
  type MixFacts,
  namesIn,
  type OutHere,
  temperatureCIn,
  toSlug,
} from './book.ts'
export { currencyOf, pricePerThousand, valuesOf } from './figures.ts'
export { type Frothing, type FrothReading, frothFromRuler, frothingOf } from './froth.ts'
export { gearOf, isForAnotherModel } from './gear.ts'
export { apartFrom, nameApart, nameIn, plainName } from './nameApart.ts'
export type {
  ClosedMix,
  Figure,
  Glass,
  Ingredient,
  SealedAs,
  Settings,
  StageOverrides,
  Station,
  StationCalibration,
  Well,
} from './schema.ts'
export {
  hasHomework,
  isHomework,
  SHELF_SHOWN,
  SHELF_SORTS,
  type ShelfShown,
  type ShelfSort,
  shelfList,
} from './shelfList.ts'
