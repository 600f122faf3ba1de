import { fittedOf, type StationFigures } from '@conch/core/cold'
import type { DrinkDocument } from '@conch/core/drink'
import { figuresCountedOn, figuresOf, type StationKey, trialsSince } from '@conch/core/means'
import { useQuery } from '@tanstack/react-query'
import { useMemo } from 'react'
import { useHouse } from '../../app/house.tsx'
import { useShownDrinks } from '../../shelf/useShownDrinks.ts'
import { useCalibration } from '../../workers/bench.ts'
import { trialsQuery } from './useTrials.ts'

/** The drinks that are poured, as they are poured. */
export function useMenuDrinks(): DrinkDocument[] | undefined {
  const shown = useShownDrinks()
  return useMemo(() => (shown.length > 0 ? shown.map((s) => s.document) : undefined), [shown])
}

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
