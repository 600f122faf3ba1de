import { dayText } from '@conch/core/calendar'
import { TRUSTED_TRIALS } from '@conch/core/calibration'
import { METHODS } from '@conch/core/cold'
import type { Station, StationCalibration } from '@conch/core/house'

/** How well a station is known, in words: what it counts on, and whether newer trials agree. */
export function StandingWords({
  station,
  calibration,
}: {
  station: Station
  calibration: StationCalibration | undefined
}) {
  if (!calibration) {
    const off = station.dilutionUncertaintyFraction ?? METHODS[station.method].uncertaintyFraction
    return <span className="text-soft">uncalibrated, ±{Math.round(100 * off)} %</span>
  }
  const { drift, trials, uncertaintyFraction, on } = calibration
  const known = `±${Math.round(100 * uncertaintyFraction)} %, ${trials} trials, last ${dayText(on)}`
  if (drift)
    return (
      <span className="font-semibold text-stop">
        drifting: {drift.trials} newer trials say {Math.round(100 * Math.abs(drift.byFraction))} %{' '}
        {drift.byFraction > 0 ? 'more' : 'less'} water
      </span>
    )
  return trials < TRUSTED_TRIALS ? (
    <span className="text-mind">a first word: {known}</span>
  ) : (
    <span>calibrated: {known}</span>
  )
}
