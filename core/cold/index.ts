export {
  type Calibration,
  type CalibrationStart,
  type CountedTrial,
  calibrate,
  type Drift,
  driftOf,
  type Estimate,
  FEWEST_TRIALS,
  TRUSTED_TRIALS,
  type TrialResidual,
} from './calibrate.ts'
export {
  chargesOf,
  ICE_KINDS,
  type Ice,
  type IceCharge,
  type IceFigures,
  type IceKind,
  type IcePortion,
  mainKindOf,
  mixIce,
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
export { type PouredOut, pourOut } from './pourOut.ts'
export {
  clockSOf,
  type HeatLedger,
  runStage,
  type StageFigures,
  type StageParameters,
  type StageResult,
  type StageSample,
} from './runStage.ts'
export { predictTrial, type StationFigures, trialIceOf, trialProblems, trialStage, unaccountedG } from './trial.ts'
export type { CalibrationDocument, StoredCalibration, Trial, TrialDocument, TrialEvent } from './trialSchema.ts'
