import type { StationFigures } from '@conch/core/cold'
import type { DrinkDocument } from '@conch/core/drink'
import { bySlug, type HouseBook } from '@conch/core/house'
import { calibrationStart, type StationKey, stationTrials } from '@conch/core/means'
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

/** What a station with one ice is counted on to be: its trials, else what is known without. */
export function figuresCountedOn(book: HouseBook, key: StationKey): StationFigures | undefined {
  const well = bySlug(book.wells, key.well)
  const station = bySlug(well?.stations ?? [], key.station)
  if (!well || !station) return undefined
  const start = calibrationStart(well, station, key.ice)
  const known = book.calibrations?.find((c) => c.well === key.well && c.station === key.station && c.ice === key.ice)
  if (!known) return start
  return {
    uaWPerK: known.uaWPerK.value,
    surfaceWaterFraction: known.surfaceWaterFraction.value,
    stirringPowerW: known.stirringPowerW?.value ?? start.stirringPowerW,
  }
}

/** What the trials since a calibration say by themselves; undefined until they are looked at. */
export function useDriftFigures(key: StationKey): StationFigures | undefined {
  const { book } = useHouse()
  const all = useQuery(trialsQuery).data
  const newer = useMemo(() => {
    if (!all) return undefined
    const isOf = (c: StationKey) => c.well === key.well && c.station === key.station && c.ice === key.ice
    const newest = all.calibrations.filter(isOf).at(-1)
    const last = newest ? Math.max(...newest.document.trials) : 0
    return stationTrials(all.trials, key).filter((t) => t.id > last)
  }, [all, key])
  const found = useCalibration(book, newer, { well: key.well, station: key.station, ice: key.ice })
  return useMemo(() => {
    const well = bySlug(book.wells, key.well)
    const station = bySlug(well?.stations ?? [], key.station)
    if (!found || found.outcome === 'tooFew' || !well || !station) return undefined
    const start = calibrationStart(well, station, key.ice)
    return {
      uaWPerK: found.uaWPerK.value,
      surfaceWaterFraction: found.surfaceWaterFraction.value,
      stirringPowerW: found.stirringPowerW?.value ?? start.stirringPowerW,
    }
  }, [found, book, key])
}
