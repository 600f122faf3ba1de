export {
  figuresCountedOn,
  figuresOf,
  isSameStation,
  type Leaver,
  leaversOf,
  newestCalibration,
  outdatedCalibrations,
  standingCalibrations,
  trialsSince,
} from './drift.ts'
export {
  calibrationFrom,
  calibrationStart,
  isExcluded,
  type StationKey,
  stationTrials,
  type TrialRequest,
  type WrittenTrial,
  writeTrial,
} from './trials.ts'
