export { blendProblems, FEWEST_IN_A_BLEND, MOST_IN_A_BLEND } from '../schema/blendRules.ts'
export type { Recipe, RecipeComponent } from '../schema/recipe.ts'
export { amountSize, isByWeight, PART_SIZE, RECIPE_MEASURES, type RecipeMeasure } from '../schema/recipeMeasures.ts'
export { type AcidCurve, acidCurveOf } from './acidCurve.ts'
export { type Adjustment, adjustAcid, CITRIC_PER_MALIC, fortify } from './adjust.ts'
export { type BlendedLine, collapseToBlend, expandBlend, partsFromLines, sharesOf, withVolumes } from './blendLines.ts'
export { type BoilResult, boilDown } from './boilDown.ts'
export { cautionsOf } from './cautions.ts'
export { type BlendCut, withoutPart, withPart, writtenBy } from './cutBlend.ts'
export { type PartOfMix, partsOf } from './partsOf.ts'
export {
  currentLots,
  earliestUseBy,
  type KeptHouse,
  lotsWithin,
  mixerOfToday,
  notesOf,
  resolveHouse,
} from './resolveHouse.ts'
export {
  type AllergenSource,
  createMixer,
  type LotFigures,
  lotLiquid,
  type Mix,
  type Mixer,
  type MixerOptions,
  type MixPart,
  type MixProblem,
  type MixResult,
  recipeProblems,
  SEALED_PROBLEM,
} from './resolveMix.ts'
export { type Batch, type BatchSize, batchOf, batchOfClosed, factorFor, type ScaleResult } from './scaleRecipe.ts'
export { isAllergenUnsure, type OnShelf, sealedAsOf, toOnePerCent } from './sealedAs.ts'
export { type DealResult, dealSheets, lettersOf, withLetters } from './splitPrep.ts'
export type { SplitPrepDocument } from './splitSchema.ts'
export { type Substitution, substituteAtEqualSugar } from './substitute.ts'
export { type KnownOfSealed, type WaysToFill, waysToFill } from './waysToFill.ts'
