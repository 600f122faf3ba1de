import {
  driftOf,
  type Estimate,
  type StationFigures,
  type StoredCalibration,
  type Trial,
} from '../calibration/index.ts'
import { MODEL_VERSION } from '../cold/index.ts'
import { type DrinkDocument, glassFor, MEASURE_NAMES, type MeasureName, standingOf } from '../drink/index.ts'
import { bySlug, type HouseBook, type StationCalibration, type Well } from '../house/index.ts'
import { calibrationStart, type StationKey, stationTrials } from './trials.ts'

export const isSameStation = (a: StationKey, b: StationKey): boolean =>
  a.well === b.well && a.station === b.station && a.ice === b.ice

/** What was fitted, as a stage takes it; a motor that the trials did not tell keeps its own power. */
export function figuresOf(
  fitted: { uaWPerK: Estimate; surfaceWaterFraction: Estimate; stirringPowerW?: Estimate | undefined },
  powerOtherwiseW: number,
): StationFigures {
  return {
    uaWPerK: fitted.uaWPerK.value,
    surfaceWaterFraction: fitted.surfaceWaterFraction.value,
    stirringPowerW: fitted.stirringPowerW?.value ?? powerOtherwiseW,
  }
}

/** What a station with one ice is counted on to be: by its trials, else what is known without. Undefined where there is no such station. */
export function figuresCountedOn(
  { wells, calibrations = [] }: Pick<HouseBook, 'wells' | 'calibrations'>,
  key: StationKey,
): StationFigures | undefined {
  const well = bySlug(wells, key.well)
  const station = bySlug(well?.stations ?? [], key.station)
  if (!well || !station) return undefined
  const start = calibrationStart(well, station, key.ice)
  const known = calibrations.find((c) => isSameStation(c, key))
  return known ? figuresOf(known, start.stirringPowerW) : start
}

/**
 * The calibration of a station with one ice that counts: its newest that was fitted with a model of the ice.
 * @param model left out: today's; what was fitted with an earlier one is history
 */
export function newestCalibration(
  stored: readonly StoredCalibration[],
  key: StationKey,
  model = MODEL_VERSION,
): StoredCalibration | undefined {
  return stored.reduce<StoredCalibration | undefined>(
    (newest, c) => (isSameStation(c, key) && c.document.model === model && c.id > (newest?.id ?? 0) ? c : newest),
    undefined,
  )
}

/** Stations with an ice whose trials were last fitted with an earlier model: to be fitted anew, by the same trials. */
export function outdatedCalibrations(stored: readonly StoredCalibration[]): StoredCalibration[] {
  return stored.filter((c) => {
    if (newestCalibration(stored, c)) return false
    return stored.every((o) => !isSameStation(o, c) || o.id <= c.id)
  })
}

/** The trials that count and that the newest calibration was made without, later than all of its own. */
export function trialsSince(stored: readonly StoredCalibration[], trials: readonly Trial[], key: StationKey): Trial[] {
  const lastId = Math.max(0, ...(newestCalibration(stored, key)?.document.trials ?? []))
  return stationTrials(trials, key).filter((t) => t.id > lastId)
}

/** The newest calibration of each station and ice, with what newer trials say against it. */
export function standingCalibrations(
  stored: readonly StoredCalibration[],
  trials: readonly Trial[],
  wells: readonly Well[],
): StationCalibration[] {
  return stored
    .filter((c) => newestCalibration(stored, c) === c)
    .flatMap(({ well: wellSlug, station, ice, document }): StationCalibration[] => {
      const key = { well: wellSlug, station, ice }
      const well = bySlug(wells, wellSlug)
      if (!well || !bySlug(well.stations, station)) return []
      const { uaWPerK, surfaceWaterFraction, stirringPowerW, uncertaintyFraction, on, assumedPowerW, volumesMl } =
        document
      const newer = trialsSince(stored, trials, key)
      const drift = driftOf(newer, figuresOf(document, assumedPowerW), uncertaintyFraction, well.ice)
      return [
        {
          ...key,
          uaWPerK,
          surfaceWaterFraction,
          ...(stirringPowerW ? { stirringPowerW } : {}),
          uncertaintyFraction,
          trials: document.trials.length,
          on,
          ...(volumesMl ? { volumesMl } : {}),
          ...(drift?.isDrifting ? { drift: { trials: drift.trials, byFraction: drift.byFraction } } : {}),
        },
      ]
    })
}

/** A drink that leaves its standard when a station is not what it is counted on to be. */
export interface Leaver {
  name: string
  measures: MeasureName[]
}

/** Drinks whose measures are in their standard by the calibration that counts, and out of it by other figures. */
export function leaversOf(
  documents: readonly DrinkDocument[],
  book: HouseBook,
  key: StationKey,
  figures: StationFigures,
): Leaver[] {
  const exactly = (value: number) => ({ value, low: value, high: value })
  const other: HouseBook = {
    ...book,
    calibrations: book.calibrations?.map((c) =>
      isSameStation(c, key)
        ? {
            ...c,
            uaWPerK: exactly(figures.uaWPerK),
            surfaceWaterFraction: exactly(figures.surfaceWaterFraction),
            stirringPowerW: exactly(figures.stirringPowerW),
          }
        : c,
    ),
  }
  /** Undefined for a drink that is not made there, or cannot be. */
  const outside = (document: DrinkDocument, by: HouseBook): MeasureName[] | undefined => {
    const glass = glassFor(document, by, key.well)
    if (!glass.ok || !glass.drink.stages.some((s) => s.calibration && isSameStation(s.calibration, key)))
      return undefined
    return MEASURE_NAMES.filter((m) => {
      const standing = standingOf(glass.result.predictions[m], document.standard[m])
      return standing === 'below' || standing === 'above'
    })
  }
  return documents.flatMap((document): Leaver[] => {
    const before = outside(document, book)
    const left = outside(document, other)?.filter((m) => !before?.includes(m)) ?? []
    return left.length > 0 ? [{ name: document.name, measures: left }] : []
  })
}
