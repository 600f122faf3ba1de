import { type Calibration, calibrate, type StationFigures, type Trial } from '@conch/core/calibration'
import {
  type DrinkDocument,
  glassFor,
  type Predictions,
  type Problem,
  resolveDrink,
  type Standard,
} from '@conch/core/drink'
import { bySlug, type HouseBook, type StationCalibration } from '@conch/core/house'
import {
  along,
  distanceFrom,
  type FitRow,
  fitRow,
  type Miss,
  runTolerance,
  type ScaledSpec,
  type SolvedMeans,
  type Swap,
  scaleToGlass,
  solveMeans,
  swapMethods,
  type Tolerance,
  type ToleranceOptions,
} from '@conch/core/means'
import { calibrationStart, type Leaver, leaversOf, type StationKey } from '@conch/core/trials'
import { expose } from 'comlink'

let book: HouseBook | undefined
/** Which tolerance run is wanted; an older one stops at its next breath. */
let wantedRun = 0

/** A drink at a well: as it is written, and as the standard wants it. */
export type WellMeans =
  | {
      ok: true
      well: string
      writtenS: number
      misses: Miss[]
      solved: SolvedMeans
      /** What the trials of its station say, where they say something. */
      calibration: StationCalibration | undefined
    }
  | { ok: false; well: string; problems: Problem[] }

/** Figures at hand-over against the seconds of the first stage. */
export type Curve = { durationS: number; predictions: Predictions }[]

const CURVE_POINTS = 48

const bench = {
  setBook(next: HouseBook) {
    book = next
  },
  wells(document: DrinkDocument): WellMeans[] {
    if (!book) return []
    const { settings, wells } = book
    return wells.map((w): WellMeans => {
      const resolution = resolveDrink(document, book as HouseBook, w.slug)
      if (!resolution.ok) return { ok: false, well: w.slug, problems: resolution.problems }
      const { drink } = resolution
      const writtenS = drink.stages[0]?.parameters.durationS ?? 0
      const [now] = along(drink, [Math.max(0.1, writtenS)], 1)
      return {
        ok: true,
        well: w.slug,
        writtenS,
        misses: now ? distanceFrom(now, document.standard).misses : [],
        solved: solveMeans(drink, document.standard, settings),
        calibration: drink.stages[0]?.calibration,
      }
    })
  },
  swaps(document: DrinkDocument, well: string): { ok: true; swaps: Swap[] } | { ok: false; problems: Problem[] } {
    if (!book) return { ok: true, swaps: [] }
    return swapMethods(document, document.standard, book, well)
  },
  curve(document: DrinkDocument, well: string, endS: number): Curve {
    const resolution = book && resolveDrink(document, book, well)
    if (!resolution?.ok) return []
    const times = Array.from({ length: CURVE_POINTS }, (_, i) => 0.3 + ((endS - 0.3) * i) / (CURVE_POINTS - 1))
    return along(resolution.drink, times).map(({ durationS, predictions }) => ({ durationS, predictions }))
  },
  hand(document: DrinkDocument, well: string) {
    const glass = book && glassFor(document, book, well)
    if (!glass?.ok || !glass.result.glass) return []
    const { after5Min, after10Min, after15Min, atHandOver } = glass.result.glass
    return [atHandOver, after5Min, after10Min, after15Min].map((m) => ({
      minutes: m.afterS / 60,
      strengthPct: m.abvPct,
      temperatureC: m.temperatureC,
      dilutionPct: 100 * m.dilutionFraction,
    }))
  },
  fits(documents: DrinkDocument[]): FitRow[] {
    return documents.map((d) => (book ? fitRow(d, book) : { ok: false, problem: 'the house is not loaded yet' }))
  },
  scaled(document: DrinkDocument, well: string, glass: string): ScaledSpec {
    return book
      ? scaleToGlass(document, book, well, glass)
      : { outcome: 'problem', problem: 'the house is not loaded yet' }
  },
  calibration(trials: Trial[], key: StationKey): Calibration | undefined {
    const well = bySlug(book?.wells ?? [], key.well)
    const station = bySlug(well?.stations ?? [], key.station)
    if (!well || !station) return undefined
    return calibrate(trials, calibrationStart(well, station, key.ice))
  },
  leavers(documents: DrinkDocument[], key: StationKey, figures: StationFigures): Leaver[] {
    return book ? leaversOf(documents, book, key, figures) : []
  },
  /** How often a hand lands in the standard; undefined when it was stopped. */
  async tolerance(
    document: DrinkDocument,
    well: string,
    standard: Standard,
    options: ToleranceOptions,
    onProgress: (fraction: number) => void,
  ): Promise<Tolerance | undefined> {
    const run = ++wantedRun
    const resolution = book && resolveDrink(document, book, well)
    if (!resolution?.ok) return undefined
    const steps = runTolerance(resolution.drink, standard, options)
    for (;;) {
      const { value, done } = steps.next()
      if (done) return value
      onProgress(value)
      await new Promise((resolve) => setTimeout(resolve))
      if (run !== wantedRun) return undefined
    }
  },
  stop() {
    wantedRun += 1
  },
}

export type Bench = typeof bench
expose(bench)
