export { type AmongOthers, amongOthers, type Balance, balanceOf } from './balance.ts'
export { type Computed, computeChillCurve, computeDrink, uncertaintyOf } from './computeDrink.ts'
export type { Consequence } from './consequence.ts'
export { allergensOf, consequencesOf } from './consequences.ts'
export { type GlassFor, glassFor } from './glassFor.ts'
export type { InHand, Start } from './inHand.ts'
export { endStage, type Finished, finishDrink, inItsVessel, startDrink } from './makeDrink.ts'
export { JUICE_HOURS, juiceHoursOf } from './mixCautions.ts'
export { outsideModel } from './outsideModel.ts'
export { pouredIn, poursSealed } from './pouredIn.ts'
export { pourName } from './pourName.ts'
export { POUR_PARTS, type PourPart, pourPartOf } from './pourPart.ts'
export { predict } from './predict.ts'
export type { Problem } from './problem.ts'
export type {
  DrinkResult,
  GlassMoment,
  GlassReport,
  PourShare,
  ServeReport,
  StageReport,
  StateReport,
  Strata,
} from './report.ts'
export { MOST_POUR_ML, type ResolvedDrink, type ResolvedPour, resolveDrink } from './resolve.ts'
export type { ParameterSource, ResolvedStage } from './resolveStage.ts'
export type { DrinkDocument, DrinkDocumentInput, PourLine, Stage } from './schema.ts'
export { type SecondsFor, secondsAt, secondsFor, withSeconds } from './secondsFor.ts'
export { type Served, serveInGlass } from './serveInGlass.ts'
export {
  type Band,
  MEASURE_NAMES,
  MEASURES,
  type MeasureName,
  OVERFLOWING_STANDARD,
  type Predicted,
  type Predictions,
  type Standard,
  type Standing,
  standardFrom,
  standingOf,
} from './standard.ts'
