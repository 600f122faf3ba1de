import {
  type HeatLedger,
  iceGOf,
  type Method,
  type Mixture,
  type Pour,
  type StageFigures,
  type StageSample,
} from '../cold/index.ts'
import { abvPctOf, massGOf, per100Ml, trustedFreezingPointCOf, volumeMlOf } from '../liquid/index.ts'
import type { Look } from '../palate/index.ts'
import type { Fill } from '../vessel/index.ts'
import type { ParameterSource } from './resolveStage.ts'
import type { Predictions } from './standard.ts'

/** A drink at one moment. Volumes are at 20 °C; melt and surface water since the first ice. */
export interface StateReport {
  massG: number
  volumeMl: number
  abvPct: number
  alcoholG: number
  sugarG: number
  acidG: number
  sugarGPer100Ml: number
  acidGPer100Ml: number
  temperatureC: number
  /** null: below −45 °C, where nothing is known of it. */
  freezingPointC: number | null
  /** Melted in this stage, and in all so far; negative when liquid froze onto the ice. */
  meltG: number
  meltTotalG: number
  surfaceWaterG: number
  surfaceWaterTotalG: number
  iceLeftG: number
  /** (melt + surface water) in g over the volume before ice in ml, all stages so far. */
  dilutionFraction: number
}

/** How the seconds of a stage are spent. */
export interface Pace {
  bursts: number
  restS: number
  waitS: number
}

export interface StageReport {
  name: string
  station?: string
  method?: Method
  parameters: StageFigures
  /** How the seconds were spent, where not in one go. */
  pace?: Pace
  sources: Record<keyof StageFigures, ParameterSource>
  /** At the end of the seconds, ice and all. */
  atEnd: StateReport
  pour: Pour
  /** What goes on from here. */
  afterPour: StateReport
  /** Liquid that stays on ice left behind and as a film, g. */
  heldBackG?: number
  iceLeftBehindG?: number
  iceGoneAtS?: number
  samples: StageSample[]
  heat: HeatLedger
}

export interface GlassMoment extends StateReport {
  /** From hand-over, s. */
  afterS: number
  /** How far the water and the temperature may be off for the film about the ice alone: half a spread, g and K. */
  waterOffG?: number
  temperatureOffK?: number
}

/** Volumes in the glass at hand-over, ml at 20 °C, from the bottom up. */
export interface Strata {
  pouredMl: number
  meltMl: number
  addedInGlassMl: number
  floatMl: number
}

export interface GlassReport {
  name: string
  /** Without the float, which lies on top and is not mixed in. */
  atHandOver: GlassMoment
  after5Min: GlassMoment
  after10Min: GlassMoment
  after15Min: GlassMoment
  /** Everything in the glass at hand-over, the float included. */
  whole: StateReport
  strata: Strata
  fill: Fill
  serveIceG: number
  /** What stands on it at hand-over and a minute and two later, ml; of which things that is assumed. */
  froth?: { atHandOverMl: number; after1MinMl: number; after2MinMl: number; assumed: string[] }
  /** The liquid without its float; of which things that is assumed. */
  look?: { atHandOver: Look; after10Min: Look; assumed: string[] }
  samples: StageSample[]
  heat: HeatLedger
}

export interface ServeReport {
  serves: number
  volumeMl: number
  alcoholG: number
  sugarG: number
  acidG: number
  /** Sugar over acid by mass; undefined without acid. */
  sugarToAcid?: number
}

export interface PourShare {
  name: string
  volumeMl: number
  /** Share of the drink's alcohol, sugar and acid that this pour brings, 0 to 1. */
  alcoholFraction: number
  sugarFraction: number
  acidFraction: number
  assumed: string[]
  /** What nobody knows of it: the drink is computed without. */
  unknown?: string[]
}

export interface DrinkResult {
  /** The number of the model of ice and liquid that computed it; left out by those before the third. */
  model?: number
  well?: string
  beforeIce: StateReport
  stages: StageReport[]
  glass?: GlassReport
  /** One guest's share. */
  serve: ServeReport
  pours: PourShare[]
  /** The measures a standard can hold, with how far off they may be. */
  predictions: Predictions
  dilutionUncertaintyFraction: number
}

/** Water that came from ice, g. */
export interface Water {
  meltG: number
  surfaceWaterG: number
}

/** A mixture as it is reported, with the water of this stage and of all so far. */
export function reportState(m: Mixture, inStage: Water, total: Water, volumeBeforeIceMl: number): StateReport {
  const added = total.meltG + total.surfaceWaterG
  return {
    massG: massGOf(m.liquid),
    volumeMl: volumeMlOf(m.liquid),
    abvPct: abvPctOf(m.liquid),
    alcoholG: m.liquid.ethanolG,
    sugarG: m.liquid.sugarG,
    acidG: m.liquid.acidG,
    sugarGPer100Ml: per100Ml(m.liquid, 'sugarG'),
    acidGPer100Ml: per100Ml(m.liquid, 'acidG'),
    temperatureC: m.temperatureC,
    freezingPointC: trustedFreezingPointCOf(m.liquid),
    meltG: inStage.meltG,
    meltTotalG: total.meltG,
    surfaceWaterG: inStage.surfaceWaterG,
    surfaceWaterTotalG: total.surfaceWaterG,
    iceLeftG: iceGOf(m),
    dilutionFraction: volumeBeforeIceMl > 0 ? added / volumeBeforeIceMl : 0,
  }
}

export const NO_WATER: Water = { meltG: 0, surfaceWaterG: 0 }
export const sumWater = (a: Water, b: Water): Water => ({
  meltG: a.meltG + b.meltG,
  surfaceWaterG: a.surfaceWaterG + b.surfaceWaterG,
})
