export {
  distanceTo,
  SPIRIT_WEIGHTS,
  STEP,
  type StandInBottle,
  type StandInDistance,
  type StandInTarget,
  type StandInWeights,
  SWEET_WEIGHTS,
} from './distance.ts'
export { type StandInEffect, type StandInEffectResult, standInEffect, standInLines } from './effect.ts'
export type { StandInAnswer } from './grid.ts'
export {
  DEFAULT_LIMIT_PER_LINE,
  DEFAULT_LIMIT_STEPS,
  findStandIns,
  type StandInOptions,
  type StandInResult,
} from './search.ts'
export { depthIn, isSweetened, type Missing, refusedFor, standInBottles, targetOf } from './shelf.ts'
