export { bySlug, type HouseBook, temperatureCIn, toSlug } from './book.ts'
export {
  ALLERGENS,
  type Allergen,
  INGREDIENT_KINDS,
  type IngredientKind,
  PLACES,
  type Place,
  SAFETY_DEFERRAL,
} from './lists.ts'
export type { Figure, Glass, Ingredient, Settings, StageOverrides, Station, Well } from './schema.ts'
