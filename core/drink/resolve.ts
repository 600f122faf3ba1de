import {
  chargesOf,
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
import {
  bySlug,
  type Figure,
  type Glass,
  gearOf,
  type HouseBook,
  type Ingredient,
  isWeighed,
  nameApart,
  type Station,
  type StationCalibration,
  temperatureCIn,
  valuesOf,
  type Well,
} from '../house/index.ts'
import { type Liquid, liquidFromFigures } from '../liquid/index.ts'
import { UNITS, volumeMlOfAmount } from '../measure/index.ts'
import { resolveSlot } from '../palate/index.ts'
import type { DrinkDocument, PourLine, Stage } from './schema.ts'

/** Something in a drink document that cannot be computed, and where. */
export interface Problem {
  path: (string | number)[]
  message: string
}

export interface ResolvedPour {
  name: string
  /** The house's entry, when it is one. */
  ingredient: Ingredient | undefined
  /** The slot that it fills, and what the pick was when that is not there. */
  slot: { name: string; insteadOf: Ingredient | undefined; isOut: boolean } | undefined
  into: PourLine['into']
  volumeMl: number
  temperatureC: number
  liquid: Liquid
  /** Figures of this pour that nobody measured or read off a label. */
  assumed: string[]
  /** Figures of this pour that nobody knows at all. */
  unknown: string[]
}

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
  /** What the trials of this station with this ice say, where they say something. */
  calibration: StationCalibration | undefined
}

export interface ResolvedDrink {
  name: string
  serves: number
  well: Well | undefined
  roomTemperatureC: number
  handOverS: number
  /** Given by the document, or undefined: from where each thing is kept. */
  startTemperatureC: number | undefined
  pours: ResolvedPour[]
  stages: ResolvedStage[]
  glass: Pick<Glass, 'profile' | 'heatCapacityJPerK' | 'name' | 'stemMm' | 'isOpaque'> | undefined
  glassTemperatureC: number
  serveIce: readonly IcePortion[]
  ice: Well['ice']
}

export type Resolution = { ok: true; drink: ResolvedDrink } | { ok: false; problems: Problem[] }

/** The largest pour that is believed, ml. */
export const MOST_POUR_ML = 1000

const NEUTRAL_ROOM_C = 20
const FIGURE_WORDS = { abvPct: 'strength', sugarGPer100Ml: 'sugar', acidGPer100Ml: 'acid' } as const

/**
 * A drink document on a well of a house: every reference looked up, every amount in ml, every
 * stage with all its parameters and where each came from. All problems are reported at once.
 * @param wellSlug the well to pour at; default the document's, else the house's first
 */
export function resolveDrink(document: DrinkDocument, book: HouseBook, wellSlug?: string): Resolution {
  const problems: Problem[] = []
  const wanted = wellSlug ?? document.well
  const well = wanted === undefined ? book.wells[0] : bySlug(book.wells, wanted)
  if (wanted !== undefined && !well) {
    problems.push({ path: ['well'], message: missing('well', wanted, book.wells) })
  }
  const roomTemperatureC = well?.roomTemperatureC ?? NEUTRAL_ROOM_C
  const pours = document.pours.map((line, i) =>
    resolvePour(line, i, document, book, well?.slug, roomTemperatureC, problems),
  )
  const stages = document.stages.map((stage, i) => resolveStage(stage, i, well, book, roomTemperatureC, problems))
  const { glass, glassTemperatureC } = resolveGlass(document, book, well, roomTemperatureC, problems)
  if (problems.length > 0) return { ok: false, problems }
  return {
    ok: true,
    drink: {
      name: document.name,
      serves: document.serves,
      well,
      roomTemperatureC,
      handOverS: well?.handOverS ?? 0,
      startTemperatureC: document.startTemperatureC,
      pours: pours as ResolvedPour[],
      stages: stages as ResolvedStage[],
      glass,
      glassTemperatureC,
      serveIce: (well && document.serveIceByWell?.[well.slug]) ?? document.serveIce,
      ice: well?.ice ?? {},
    },
  }
}

function missing(what: string, slug: string, list: readonly { slug: string }[]): string {
  const some = list.slice(0, 6).map((x) => x.slug)
  const known =
    some.length === 0
      ? 'the house has none yet'
      : `the house has ${some.join(', ')}${list.length > 6 ? ' and more' : ''}`
  return `there is no ${what} “${slug}”; ${known}`
}

function resolvePour(
  line: PourLine,
  index: number,
  document: DrinkDocument,
  book: HouseBook,
  wellSlug: string | undefined,
  roomTemperatureC: number,
  problems: Problem[],
): ResolvedPour | undefined {
  const at = (...rest: (string | number)[]) => ['pours', index, ...rest]
  const volumeMl = line.volumeMl ?? (line.amount && volumeMlOfAmount(line.amount, book.settings.kit, document.partMl))
  if (volumeMl === undefined) {
    problems.push({ path: at('amount'), message: 'is in parts; say how large a part is (partMl)' })
    return undefined
  }
  if (volumeMl > MOST_POUR_ML) {
    const { value, unit } = line.amount ?? { value: volumeMl, unit: 'ml' as const }
    const written = `${value} ${UNITS[unit].label} is ${Math.round(volumeMl)} ml`
    problems.push({
      path: at('amount', 'value'),
      message: `${written}; a pour is more than 0 and at most ${MOST_POUR_ML} ml`,
    })
    return undefined
  }
  const slot = bySlug(book.slots ?? [], line.slot)
  if (line.slot !== undefined && !slot) {
    problems.push({ path: at('slot'), message: missing('slot', line.slot, book.slots ?? []) })
    return undefined
  }
  const inSlot = slot && resolveSlot(slot, book, wellSlug)
  if (slot && !inSlot) {
    problems.push({ path: at('slot'), message: `nothing that the slot ${slot.name} names is on the back bar` })
    return undefined
  }
  const ingredient = inSlot?.ingredient ?? bySlug(book.ingredients, line.ingredient)
  if (line.ingredient !== undefined && !ingredient) {
    problems.push({ path: at('ingredient'), message: missing('ingredient', line.ingredient, book.ingredients) })
    return undefined
  }
  if (ingredient && isWeighed(ingredient.kind)) {
    problems.push({ path: at('ingredient'), message: `${ingredient.name} is weighed, not poured; make a mix of it` })
    return undefined
  }
  if (ingredient?.recipe && isDry(ingredient)) {
    problems.push({ path: at('ingredient'), message: `${ingredient.name} is dry; make a mix of it with water` })
    return undefined
  }
  const figures = ingredient ? valuesOf(ingredient) : line.figures
  if (!figures) throw new Error('bug: a pour without ingredient and figures passed the schema')
  const made = liquidFromFigures(volumeMl, figures)
  if (!made.ok) {
    problems.push({ path: at(ingredient ? 'ingredient' : 'figures'), message: made.reason })
    return undefined
  }
  return {
    name: (ingredient && nameApart(ingredient, book.ingredients)) ?? line.figures?.name ?? `pour ${index + 1}`,
    ingredient,
    slot: slot && inSlot && { name: slot.name, insteadOf: inSlot.insteadOf, isOut: inSlot.isOut },
    into: line.into,
    volumeMl,
    temperatureC: line.temperatureC ?? temperatureCIn(ingredient?.storedIn ?? 'shelf', book.settings, roomTemperatureC),
    liquid: made.liquid,
    assumed: ingredient ? assumedFigures(ingredient) : [],
    unknown: ingredient ? unknownFigures(ingredient) : [],
  }
}

/** Grams of solids in 100 ml above which nothing pours. */
const MOST_SOLIDS_G_PER_100ML = 130

/** A mix of powders: its figures are no liquid's. */
function isDry({ figures: f }: Ingredient): boolean {
  return f.sugarGPer100Ml.value + f.acidGPer100Ml.value + (f.otherGPer100Ml?.value ?? 0) > MOST_SOLIDS_G_PER_100ML
}

/** Figures that nobody has said anything of: what is computed is without them. */
function unknownFigures(ingredient: Ingredient): string[] {
  return (Object.keys(FIGURE_WORDS) as (keyof typeof FIGURE_WORDS)[])
    .filter((key) => ingredient.figures[key].basis === 'unknown')
    .map((key) => FIGURE_WORDS[key])
}

/** Zero counts as known: nobody assumes that rum has no acid. */
function assumedFigures(ingredient: Ingredient): string[] {
  return (Object.keys(FIGURE_WORDS) as (keyof typeof FIGURE_WORDS)[])
    .filter((key) => {
      const figure: Figure = ingredient.figures[key]
      return figure.basis === 'assumed' && figure.value !== 0
    })
    .map((key) => FIGURE_WORDS[key])
}

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

function resolveStage(
  stage: Stage,
  index: number,
  well: Well | undefined,
  book: HouseBook,
  roomTemperatureC: number,
  problems: Problem[],
): ResolvedStage | undefined {
  const { station, at = well, problem } = findStation(stage, well, book)
  if (problem) {
    problems.push({ path: ['stages', index, 'station'], message: problem })
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
  const iceMix = mixIce(portions, ownIce)
  const sources = {} as Record<keyof StageFigures, ParameterSource>

  /** The first candidate that has a value, remembered with its source. */
  const pick = (key: keyof StageFigures, ...candidates: [ParameterSource, number | undefined][]): number => {
    const all: [ParameterSource, number | undefined][] = [['spec', stage.parameters?.[key]], ...candidates]
    const [source, value] = all.find(([, v]) => v !== undefined) ?? ['neutral', undefined]
    sources[key] = source
    if (value === undefined) {
      problems.push({
        path: ['stages', index, 'parameters', key],
        message: 'is missing; a stage without a method or a station says it itself',
      })
      return 0
    }
    return value
  }
  const roomC = pick('roomTemperatureC', ['well', at ? at.roomTemperatureC : undefined], ['neutral', roomTemperatureC])
  const iceSource: ParameterSource = here?.ice || stage.ice ? 'spec' : 'preset'
  const own = station && gearOf(station)
  const wantedSpeed = here?.speed ?? stage.speed
  const speed = bySlug(station?.speeds ?? [], wantedSpeed)
  if (wantedSpeed !== undefined && !speed) {
    const where = station ? `speed of ${station.name}` : 'speed without a station'
    const path = here?.speed === undefined ? ['speed'] : ['byWell', at?.slug ?? '', 'speed']
    problems.push({ path: ['stages', index, ...path], message: missing(where, wantedSpeed, station?.speeds ?? []) })
  }
  const parameters: StageParameters = {
    iceG: pick(
      'iceG',
      [iceSource, iceMix?.massG],
      ['spec', stage.ice || here?.ice ? 0 : undefined],
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
  const said = stage.parameters ?? {}
  // What the spec says of the ice outright, it says of all of it.
  const scale = iceMix && said.iceG !== undefined ? said.iceG / iceMix.massG : 1
  const charges = chargesOf(portions, ownIce).map((c) => ({
    ...c,
    massG: c.massG * scale,
    temperatureC: said.iceTemperatureC ?? c.temperatureC,
    surfaceWaterFraction: said.surfaceWaterFraction ?? c.surfaceWaterFraction,
  }))
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
    packedSolidFraction: iceMix?.packedSolidFraction ?? 0.6,
    parameters,
    sources,
    pour: stage.pour ?? preset?.usual.pour ?? 'open',
    dilutionUncertaintyFraction:
      calibration?.uncertaintyFraction ??
      station?.dilutionUncertaintyFraction ??
      preset?.uncertaintyFraction ??
      UNCALIBRATED_DILUTION_UNCERTAINTY_FRACTION,
    calibration,
  }
}

/** A figure at another speed. */
function times(value: number | undefined, factor = 1): number | undefined {
  return value === undefined ? undefined : value * factor
}

function resolveGlass(
  document: DrinkDocument,
  book: HouseBook,
  well: Well | undefined,
  roomTemperatureC: number,
  problems: Problem[],
): Pick<ResolvedDrink, 'glass' | 'glassTemperatureC'> {
  if (document.glassProfile) {
    const glass = {
      name: 'glass',
      profile: document.glassProfile,
      heatCapacityJPerK: METHODS.build.vesselJPerK,
      stemMm: 0,
      isOpaque: false,
    }
    return { glass, glassTemperatureC: roomTemperatureC }
  }
  const own = well && document.glassByWell?.[well.slug]
  const slug = own ?? document.glass
  if (slug === undefined) return { glass: undefined, glassTemperatureC: roomTemperatureC }
  const glass = bySlug(book.glasses, slug)
  if (!glass) {
    const path = own && well ? ['glassByWell', well.slug] : ['glass']
    problems.push({ path, message: missing('glass', slug, book.glasses) })
    return { glass: undefined, glassTemperatureC: roomTemperatureC }
  }
  return { glass, glassTemperatureC: temperatureCIn(glass.storedIn, book.settings, roomTemperatureC) }
}
