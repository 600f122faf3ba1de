/** What one stage with ice is told, and what it answers. */

import type { IceCharge } from './ice.ts'
import type { Mixture } from './mixture.ts'

/** The figures of one stage with ice. */
export interface StageFigures {
  /** Ice added at the start, as scooped: its surface water included, g. */
  iceG: number
  iceTemperatureC: number
  /** Share of `iceG` that is water at 0 °C on the surface, 0 to 1. */
  surfaceWaterFraction: number
  /** Conductance from liquid to ice while any is left, W/K. */
  uaWPerK: number
  stirringPowerW: number
  vesselJPerK: number
  vesselTemperatureC: number
  /** Of work: pauses and waiting come on top. */
  durationS: number
  roomTemperatureC: number
  /** Conductance from the room to the drink, W/K. */
  leakWPerK: number
}

/** Everything one stage with ice needs to know. */
export interface StageParameters extends StageFigures {
  /** The ice kind by kind, where there are kinds; the three figures of the ice sum them up. */
  charges?: readonly IceCharge[]
  /** The work is done in this many bursts. Default 1. */
  bursts?: number
  /** Between two bursts, s. Default 0. */
  restS?: number
  /** The drink lies on its ice before the work begins: ice first, and waiting, s. Default 0. */
  waitS?: number
}

export interface StageSample {
  /** Since the ice went in, s. */
  timeS: number
  temperatureC: number
  /** null: below −45 °C, where nothing is known of it. */
  freezingPointC: number | null
  /** Surface water and melt that have joined the liquid in this stage, g. */
  addedWaterG: number
  iceG: number
}

/** Where the heat came from and went, J; `residualJ` is what does not add up. */
export interface HeatLedger {
  stirringJ: number
  roomJ: number
  /** Enthalpy of liquid, vessel and ice together, before and after. */
  beforeJ: number
  afterJ: number
  residualJ: number
}

export interface StageResult {
  ok: true
  after: Mixture
  /** Ice that became liquid in this stage; negative when a very cold core froze liquid, g. */
  meltG: number
  surfaceWaterG: number
  /** When the last ice was gone, or undefined, s. */
  iceGoneAtS: number | undefined
  samples: StageSample[]
  /** The mixture at each sample, as the stage could be ended there. */
  states: Mixture[]
  heat: HeatLedger
}

/** Outside this the model says nothing. */
export const DOMAIN = {
  /** Of a liquid, °C. */
  hottestC: 95,
  /** Of the water that a liquid began the stage with: less than this has frozen solid. */
  leastWaterFraction: 0.01,
} as const

/** Which limit a stage passes, and how far; or that it was not computed to its end. */
export type PassedLimit =
  | { limit: 'freezingPoint'; freezingPointC: number }
  | { limit: 'hot'; temperatureC: number }
  | { limit: 'solid'; waterFraction: number }
  | { limit: 'steps' }

export interface StageRefusal {
  ok: false
  passed: PassedLimit
  /** When it passed it, s since the ice went in. */
  atS: number
  surfaceWaterG: number
  /** What was asked for before that. */
  samples: StageSample[]
  states: Mixture[]
}
export type StageOutcome = StageResult | StageRefusal
