export { type StandInEffect, type StandInEffectResult, standInEffect, standInLines } from './effect.ts'
export {
  DEFAULT_LIMIT_PER_LINE,
  DEFAULT_LIMIT_STEPS,
  distanceTo,
  findStandIns,
  SPIRIT_WEIGHTS,
  STEP,
  type StandInAnswer,
  type StandInBottle,
  type StandInDistance,
  type StandInOptions,
  type StandInResult,
  type StandInTarget,
  type StandInWeights,
  SWEET_WEIGHTS,
} from './search.ts'
export { depthIn, isSweetened, type Missing, refusedFor, standInBottles, targetOf } from './shelf.ts'
