export {
  type Calibration,
  type CalibrationStart,
  type CountedTrial,
  calibrate,
  type Drift,
  driftOf,
  type Estimate,
  FEWEST_TRIALS,
  type Fitted,
  fittedOf,
  TRUSTED_TRIALS,
  type TrialResidual,
} from './calibrate.ts'
export { predictTrial, type StationFigures, trialIceOf, trialProblems, trialStage, unaccountedG } from './trial.ts'
export type { CalibrationDocument, StoredCalibration, Trial, TrialDocument, TrialEvent } from './trialSchema.ts'
