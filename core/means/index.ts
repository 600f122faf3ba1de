export { type AtSeconds, along, distanceFrom, endsOf, handedOver, type Miss } from './along.ts'
export { withIceTimes, withPoursTimes } from './change.ts'
export { followFill } from './followFill.ts'
export {
  type FilledIce,
  type Fit,
  type FitRow,
  fillWithIce,
  fitRow,
  inScoops,
  toppingAt,
  USUAL_WASH_LINE_PCT,
} from './glassFit.ts'
export { iceWords, type Swap, solvedDocument, swapMethods, withMethod } from './methodSwap.ts'
export { scaleServes } from './scaleServes.ts'
export { type ScaledSpec, scaleToGlass } from './scaleToGlass.ts'
export {
  bestOf,
  COARSENESS,
  edge,
  handSeconds,
  type MadeAt,
  refine,
  secondsGrid,
} from './searchSeconds.ts'
export { type Help, missWords, mostSecondsOf, type SolvedMeans, solveMeans } from './solveMeans.ts'
export {
  CAUSES,
  type Cause,
  type CauseEffect,
  type MeasuredHand,
  runTolerance,
  SKILLS,
  type SkillName,
  type Tolerance,
  type ToleranceOptions,
} from './tolerance.ts'
