export { type Match, matchIngredient, sureMatch } from './matchIngredient.ts'
export { flagUnusual, type ReadSpec, readSpec, type SpecContext, type SpecLine } from './readSpec.ts'
export { likelyAmount, type UsualRange, usualRange } from './usualAmount.ts'
