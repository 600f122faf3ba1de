export { ICE_KINDS, type Ice, type IceFigures, type IceKind, type IcePortion, mixIce } from './ice.ts'
export {
  METHODS,
  type Method,
  type MethodPreset,
  POURS,
  type Pour,
  REST_UA_W_PER_K,
  UNCALIBRATED_DILUTION_UNCERTAINTY_FRACTION,
} from './methods.ts'
export {
  type HeatLedger,
  type Mixture,
  pourOut,
  runStage,
  type StageParameters,
  type StageResult,
  type StageSample,
} from './runStage.ts'
