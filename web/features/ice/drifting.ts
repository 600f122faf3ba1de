import { fittedOf, type StationFigures } from '@conch/core/calibration'
import { figuresCountedOn, figuresOf, type StationKey, trialsSince } from '@conch/core/trials'
import { useQuery } from '@tanstack/react-query'
import { useMemo } from 'react'
import { useHouse } from '../../app/house.tsx'
import { useCalibration } from '../../workers/bench.ts'
import { trialsQuery } from './useTrials.ts'

/** What the trials since a calibration say by themselves; undefined until they are looked at. */
export function useDriftFigures(key: StationKey): StationFigures | undefined {
  const { book } = useHouse()
  const all = useQuery(trialsQuery).data
  const newer = useMemo(() => all && trialsSince(all.calibrations, all.trials, key), [all, key])
  const found = useCalibration(book, newer, { well: key.well, station: key.station, ice: key.ice })
  return useMemo(() => {
    const fitted = fittedOf(found)
    return fitted && figuresOf(fitted, figuresCountedOn(book, key)?.stirringPowerW ?? 0)
  }, [found, book, key])
}
