export {
  chargesOf,
  ICE_FILLS,
  ICE_KINDS,
  type Ice,
  type IceCharge,
  type IceFigures,
  type IceFill,
  type IceKind,
  type IcePortion,
  mainKindOf,
  mixIce,
  NO_KIND,
} from './ice.ts'
export {
  METHODS,
  type Method,
  type MethodPreset,
  POURS,
  type Pour,
  REST_UA_W_PER_K,
  UNCALIBRATED_DILUTION_UNCERTAINTY_FRACTION,
} from './methods.ts'
export { type IcePile, iceGOf, type Mixture } from './mixture.ts'
export { MODEL_VERSION } from './model.ts'
export { clockSOf } from './pace.ts'
export { type PouredOut, pourOut } from './pourOut.ts'
export { type RunOptions, runStage } from './runStage.ts'
export {
  DOMAIN,
  type HeatLedger,
  type PassedLimit,
  type StageFigures,
  type StageOutcome,
  type StageParameters,
  type StageRefusal,
  type StageResult,
  type StageSample,
} from './stage.ts'
export { FILM_J_PER_G_K, FILM_RANGE_J_PER_G_K, meltingHeatJPerG, solveMelting, surfaceCOf } from './surface.ts'
export { dilutionUncertainty, type VolumeRange } from './uncertainty.ts'
