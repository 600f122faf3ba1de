import {
  chargesOf,
  type IceCharge,
  type IcePortion,
  METHODS,
  type Method,
  type MethodPreset,
  mainKindOf,
  mixIce,
  type Pour,
  type StageFigures,
  type StageParameters,
  UNCALIBRATED_DILUTION_UNCERTAINTY_FRACTION,
} from '../cold/index.ts'
import { bySlug, gearOf, type HouseBook, type Station, type StationCalibration, type Well } from '../house/index.ts'
import { missing, type Problem } from './problem.ts'
import type { Stage } from './schema.ts'

/** Where a parameter's value came from: the first that says something wins. */
export type ParameterSource = 'spec' | 'trials' | 'station' | 'well' | 'preset' | 'neutral'

export interface ResolvedStage {
  name: string
  method: Method | undefined
  station: string | undefined
  inGlass: boolean
  ice: readonly IcePortion[]
  packedSolidFraction: number
  parameters: StageParameters
  sources: Record<keyof StageFigures, ParameterSource>
  pour: Pour
  /** Of the gear, at the volumes that are known of it. */
  dilutionUncertaintyFraction: number
  /** Liquid and ice with which the gear still works, ml; undefined: it is the glass, or nobody knows the gear. */
  holdsMl: number | undefined
  /** What the trials of this station with this ice say, where they say something. */
  calibration: StationCalibration | undefined
}

/** Where a stage is made, with what, and what is known of that. */
interface StageGear {
  station: Station | undefined
  at: Well | undefined
  method: Method | undefined
  preset: MethodPreset | undefined
  calibration: StationCalibration | undefined
  speed: { uaTimes?: number | undefined; powerTimes?: number | undefined } | undefined
  /** The ice that the spec, or the method, puts in. */
  portions: readonly IcePortion[]
  /** What is known of the ice of the well, by trials too. */
  ownIce: Well['ice']
}

/** Names a problem of this stage. */
type Say = (path: (string | number)[], message: string) => void

/** The station a stage means: the one it names, or the well's first for its method. */
function findStation(
  stage: Stage,
  well: Well | undefined,
  book: HouseBook,
): { station?: Station; at?: Well; problem?: string } {
  if (stage.station === undefined) {
    return { station: well?.stations.find((s) => s.method === stage.method), at: well }
  }
  const [first, second] = stage.station.split('/')
  const at = second === undefined ? well : bySlug(book.wells, first)
  const slug = second ?? first
  if (!at) {
    const reason =
      second === undefined ? 'needs a well; the house has none yet' : missing('well', first ?? '', book.wells)
    return { problem: `station “${stage.station}” ${reason}` }
  }
  const station = bySlug(at.stations, slug)
  return station ? { station, at } : { problem: missing(`station at the ${at.name}`, slug ?? '', at.stations) }
}

function gearFor(stage: Stage, well: Well | undefined, book: HouseBook, say: Say): StageGear | undefined {
  const { station, at = well, problem } = findStation(stage, well, book)
  if (problem) {
    say(['station'], problem)
    return undefined
  }
  const method = station?.method ?? stage.method
  const preset: MethodPreset | undefined = method && METHODS[method]
  const here = at && stage.byWell?.[at.slug]
  const portions: readonly IcePortion[] = here?.ice ?? stage.ice ?? preset?.usual.ice ?? []
  const mainKind = mainKindOf(portions)
  const calibration =
    station && at && mainKind
      ? book.calibrations?.find((c) => c.well === at.slug && c.station === station.slug && c.ice === mainKind)
      : undefined
  const ownIce: Well['ice'] = { ...at?.ice }
  if (calibration && mainKind)
    ownIce[mainKind] = { ...ownIce[mainKind], surfaceWaterFraction: calibration.surfaceWaterFraction.value }
  const wantedSpeed = here?.speed ?? stage.speed
  const speed = bySlug(station?.speeds ?? [], wantedSpeed)
  if (wantedSpeed !== undefined && !speed) {
    const where = station ? `speed of ${station.name}` : 'speed without a station'
    const path = here?.speed === undefined ? ['speed'] : ['byWell', at?.slug ?? '', 'speed']
    say(path, missing(where, wantedSpeed, station?.speeds ?? []))
  }
  return { station, at, method, preset, calibration, speed, portions, ownIce }
}

type Candidate = [ParameterSource, number | undefined]

/** Every figure of a stage from the first who says something of it, remembered with who that was. */
function figuresOf(stage: Stage, gear: StageGear, roomTemperatureC: number, say: Say) {
  const { station, at, method, preset, calibration, speed, portions, ownIce } = gear
  const here = at && stage.byWell?.[at.slug]
  const own = station && gearOf(station)
  const iceMix = mixIce(portions, ownIce)
  const sources = {} as Record<keyof StageFigures, ParameterSource>
  const pick = (key: keyof StageFigures, ...candidates: Candidate[]): number => {
    const all: Candidate[] = [['spec', stage.parameters?.[key]], ...candidates]
    const [source, value] = all.find(([, v]) => v !== undefined) ?? ['neutral', undefined]
    sources[key] = source
    if (value === undefined) {
      say(['parameters', key], 'is missing; a stage without a method or a station says it itself')
      return 0
    }
    return value
  }
  const roomC = pick('roomTemperatureC', ['well', at ? at.roomTemperatureC : undefined], ['neutral', roomTemperatureC])
  const isIceSaid = here?.ice !== undefined || stage.ice !== undefined
  const parameters: StageParameters = {
    iceG: pick(
      'iceG',
      [isIceSaid ? 'spec' : 'preset', iceMix?.massG],
      ['spec', isIceSaid ? 0 : undefined],
      ['neutral', method ? 0 : undefined],
    ),
    iceTemperatureC: pick('iceTemperatureC', ['well', iceMix?.temperatureC], ['neutral', 0]),
    surfaceWaterFraction: pick('surfaceWaterFraction', ['well', iceMix?.surfaceWaterFraction], ['neutral', 0]),
    uaWPerK: pick(
      'uaWPerK',
      ['trials', times(calibration?.uaWPerK.value, speed?.uaTimes)],
      ['station', times(own?.uaWPerK, speed?.uaTimes)],
      ['preset', times(preset?.uaWPerK, speed?.uaTimes)],
    ),
    stirringPowerW: pick(
      'stirringPowerW',
      ['trials', times(calibration?.stirringPowerW?.value, speed?.powerTimes)],
      ['station', times(own?.stirringPowerW, speed?.powerTimes)],
      ['preset', times(preset?.stirringPowerW, speed?.powerTimes)],
      ['neutral', 0],
    ),
    vesselJPerK: pick('vesselJPerK', ['station', own?.vesselJPerK], ['preset', preset?.vesselJPerK], ['neutral', 0]),
    vesselTemperatureC: pick('vesselTemperatureC', ['station', own?.vesselTemperatureC], ['well', roomC]),
    durationS: pick(
      'durationS',
      ['spec', here?.durationS],
      ['spec', stage.durationS],
      ['preset', preset?.usual.durationS],
    ),
    roomTemperatureC: roomC,
    leakWPerK: pick('leakWPerK', ['station', own?.leakWPerK], ['preset', preset?.leakWPerK], ['neutral', 0]),
  }
  return { parameters, sources, iceMix }
}

/** The ice as it goes in, kind by kind. What the spec says of the ice outright, it says of all of it. */
function chargesIn(stage: Stage, { portions, ownIce }: StageGear, mixedG: number | undefined): IceCharge[] {
  const said = stage.parameters ?? {}
  const scale = mixedG !== undefined && said.iceG !== undefined ? said.iceG / mixedG : 1
  return chargesOf(portions, ownIce).map((c) => ({
    ...c,
    massG: c.massG * scale,
    temperatureC: said.iceTemperatureC ?? c.temperatureC,
    surfaceWaterFraction: said.surfaceWaterFraction ?? c.surfaceWaterFraction,
  }))
}

/**
 * One stage with all its parameters and where each came from.
 * @param problems what cannot be resolved is put there
 */
export function resolveStage(
  stage: Stage,
  index: number,
  well: Well | undefined,
  book: HouseBook,
  roomTemperatureC: number,
  problems: Problem[],
): ResolvedStage | undefined {
  const say: Say = (path, message) => problems.push({ path: ['stages', index, ...path], message })
  const gear = gearFor(stage, well, book, say)
  if (!gear) return undefined
  const { station, method, preset, calibration, portions } = gear
  const { parameters, sources, iceMix } = figuresOf(stage, gear, roomTemperatureC, say)
  const charges = chargesIn(stage, gear, iceMix?.massG)
  if (charges.length > 0) parameters.charges = charges
  if (stage.bursts !== undefined) parameters.bursts = stage.bursts
  if (stage.restS !== undefined) parameters.restS = stage.restS
  if (stage.waitS !== undefined) parameters.waitS = stage.waitS
  return {
    name: station ? station.name : preset ? preset.label : `stage ${index + 1}`,
    method,
    station: station?.slug,
    inGlass: preset?.inGlass ?? false,
    ice: portions,
    packedSolidFraction: iceMix?.packedSolidFraction ?? LOOSE_SOLID_FRACTION,
    parameters,
    sources,
    pour: stage.pour ?? preset?.usual.pour ?? 'open',
    dilutionUncertaintyFraction:
      calibration?.uncertaintyFraction ??
      station?.dilutionUncertaintyFraction ??
      preset?.uncertaintyFraction ??
      UNCALIBRATED_DILUTION_UNCERTAINTY_FRACTION,
    holdsMl: station?.holdsMl ?? preset?.holdsMl,
    calibration,
  }
}

/** How much of a heap is ice where no kind of ice is known. Chosen, because equal spheres poured loosely fill about that. */
const LOOSE_SOLID_FRACTION = 0.6

/** A figure at another speed. */
function times(value: number | undefined, factor = 1): number | undefined {
  return value === undefined ? undefined : value * factor
}
