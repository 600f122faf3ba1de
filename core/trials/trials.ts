import {
  type CalibrationDocument,
  type CalibrationStart,
  calibrate,
  type Trial,
  type TrialDocument,
  trialIceOf,
  trialProblems,
} from '../calibration/index.ts'
import { ICE_KINDS, type IceKind, type IcePortion, METHODS, MODEL_VERSION, mainKindOf } from '../cold/index.ts'
import { type DrinkDocument, resolveDrink, startDrink } from '../drink/index.ts'
import { bySlug, gearOf, type HouseBook, type Station, type Well } from '../house/index.ts'
import { type Liquid, liquidFromFigures, massGOf, scaleLiquid, volumeMlOf } from '../liquid/index.ts'

/** A station with one kind of ice: what a calibration is of. */
export interface StationKey {
  well: string
  station: string
  ice: IceKind
}

/** A trial as a hand writes it down; what nobody measured is left out, and stands as assumed. */
export interface TrialRequest {
  well: string
  station: string
  drink?: string | undefined
  version?: number | undefined
  /** Of a test liquid, in place of a drink. */
  figures?: { abvPct: number; sugarGPer100Ml: number; acidGPer100Ml: number } | undefined
  liquidBeforeG: number
  beforeC?: number | undefined
  ice: readonly IcePortion[]
  iceC?: number | undefined
  roomC?: number | undefined
  vesselC?: number | undefined
  speed?: string | undefined
  durationS: number
  bursts?: number | undefined
  restS?: number | undefined
  waitS?: number | undefined
  afterG: number
  afterC?: number | undefined
  iceLeftG?: number | undefined
  note?: string | undefined
}

export type WrittenTrial =
  | { ok: true; document: TrialDocument }
  | { ok: false; problems: { field: string; message: string }[] }

/**
 * A trial as it is kept: the liquid's composition, the gear and every temperature with it, so that it
 * can be computed for ever. All problems at once.
 * @param made what was made; undefined for a test liquid
 */
export function writeTrial(request: TrialRequest, book: HouseBook, made: DrinkDocument | undefined): WrittenTrial {
  const problems: { field: string; message: string }[] = []
  const well = bySlug(book.wells, request.well)
  const station = bySlug(well?.stations ?? [], request.station)
  if (!well) problems.push({ field: 'well', message: `there is no well “${request.well}”` })
  else if (!station)
    problems.push({ field: 'station', message: `the ${well.name} has no station “${request.station}”` })
  const speed = bySlug(station?.speeds ?? [], request.speed)
  if (station && request.speed !== undefined && !speed)
    problems.push({ field: 'speed', message: `${station.name} has no speed “${request.speed}”` })
  const main = mainKindOf(request.ice)
  if (!main) problems.push({ field: 'ice', message: 'a trial needs ice; weigh it' })
  if (!well || !station || !main) return { ok: false, problems }

  let start: { liquid: Liquid; temperatureC: number } | undefined
  if (made) {
    const resolution = resolveDrink(made, book, well.slug)
    if (resolution.ok) start = startDrink(resolution.drink).mixture
    else problems.push({ field: 'drink', message: resolution.problems[0]?.message ?? 'cannot be computed' })
  } else if (request.figures) {
    const liquid = liquidFromFigures(100, request.figures)
    if (liquid.ok) start = { liquid: liquid.liquid, temperatureC: well.roomTemperatureC }
    else problems.push({ field: 'figures', message: liquid.reason })
  } else problems.push({ field: 'drink', message: 'name a drink, or give the figures of a test liquid' })
  if (!start) return { ok: false, problems }

  const read = (value: number | undefined, otherwise: number) =>
    value === undefined
      ? { value: Number(otherwise.toFixed(2)), basis: 'assumed' as const }
      : { value, basis: 'measured' as const }
  const preset = METHODS[station.method]
  const own = station.parameters
  const massG = massGOf(start.liquid)
  const document: TrialDocument = {
    method: station.method,
    ...(request.drink === undefined ? {} : { drink: request.drink }),
    ...(request.version === undefined ? {} : { version: request.version }),
    liquid: massG > 0 ? scaleLiquid(start.liquid, request.liquidBeforeG / massG) : start.liquid,
    beforeC: read(request.beforeC, start.temperatureC),
    ice: request.ice.map((p) => ({ ...p })),
    iceC: read(request.iceC, well.ice[main]?.temperatureC ?? ICE_KINDS[main].temperatureC),
    roomC: read(request.roomC, well.roomTemperatureC),
    vesselC: read(request.vesselC, own.vesselTemperatureC ?? well.roomTemperatureC),
    gear: {
      vesselJPerK: own.vesselJPerK ?? preset.vesselJPerK,
      leakWPerK: own.leakWPerK ?? preset.leakWPerK,
      uaTimes: speed?.uaTimes ?? 1,
      powerTimes: speed?.powerTimes ?? 1,
    },
    ...(request.speed === undefined ? {} : { speed: request.speed }),
    durationS: request.durationS,
    bursts: request.bursts ?? 1,
    restS: request.restS ?? 0,
    waitS: request.waitS ?? 0,
    afterG: request.afterG,
    ...(request.afterC === undefined ? {} : { afterC: request.afterC }),
    ...(request.iceLeftG === undefined ? {} : { iceLeftG: request.iceLeftG }),
    ...(request.note ? { note: request.note } : {}),
  }
  const impossible = [...problems, ...trialProblems(document)]
  return impossible.length > 0 ? { ok: false, problems: impossible } : { ok: true, document }
}

/** Whether a trial counts: the last that was said of it. */
export function isExcluded(trial: Trial): boolean {
  return trial.events[trial.events.length - 1]?.event.kind === 'excluded'
}

/** The trials of a station with one ice that count, oldest first. */
export function stationTrials(trials: readonly Trial[], key: StationKey, since = ''): Trial[] {
  return trials
    .filter((t) => t.well === key.well && t.station === key.station && trialIceOf(t.document) === key.ice)
    .filter((t) => !isExcluded(t) && t.on >= since)
    .sort((a, b) => a.id - b.id)
}

/** What a calibration of a station starts from: what is known without trials. */
export function calibrationStart(well: Well, station: Station, ice: IceKind): CalibrationStart {
  const preset = METHODS[station.method]
  const own = gearOf(station)
  return {
    method: station.method,
    ice,
    uaWPerK: own.uaWPerK ?? preset.uaWPerK,
    stirringPowerW: own.stirringPowerW ?? preset.stirringPowerW,
    surfaceWaterFraction: well.ice[ice]?.surfaceWaterFraction ?? ICE_KINDS[ice].surfaceWaterFraction,
    measuredIce: well.ice,
  }
}

/** A calibration as it is kept, or why these trials make none. */
export function calibrationFrom(
  trials: readonly Trial[],
  well: Well,
  station: Station,
  ice: IceKind,
): { ok: true; document: CalibrationDocument } | { ok: false; reason: string } {
  const start = calibrationStart(well, station, ice)
  const found = calibrate(trials, start, { looksForOutliers: false })
  if (found.outcome === 'tooFew')
    return { ok: false, reason: `${found.trials} trials count; ${found.needed} are the fewest that say something` }
  if (found.outcome === 'outsideModel')
    return { ok: false, reason: `trial ${found.trial} is outside of what the model knows; leave it out` }
  if (found.outcome === 'maxIterations')
    return { ok: false, reason: 'the fit to these trials came to no end; look at their weights' }
  const { outcome, uaWPerK, surfaceWaterFraction, stirringPowerW, uncertaintyFraction } = found
  const volumes = trials.map((t) => volumeMlOf(t.document.liquid))
  return {
    ok: true,
    document: {
      outcome,
      uaWPerK,
      surfaceWaterFraction,
      ...(stirringPowerW ? { stirringPowerW } : {}),
      assumedPowerW: start.stirringPowerW,
      uncertaintyFraction,
      trials: trials.map((t) => t.id),
      model: MODEL_VERSION,
      volumesMl: { lowMl: Math.min(...volumes), highMl: Math.max(...volumes) },
      on: trials.reduce((last, t) => (t.on > last ? t.on : last), ''),
    },
  }
}
