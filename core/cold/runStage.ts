import {
  enthalpyJOf,
  freezingPointCOf,
  heatCapacityJPerKOf,
  LATENT_HEAT_J_PER_G,
  type Liquid,
  mixingHeatJOf,
  temperatureCFromEnthalpy,
} from '../liquid/index.ts'
import { integrate } from '../solve/integrate.ts'

const WATER_J_PER_G_K = 4.19
const ICE_J_PER_G_K = 2.07

/**
 * Nothing exchanges heat faster than stirring brings liquid to the surface: a conductance counts at
 * most this many times the heat capacity it works on, per second. Bites only below a few ml.
 */
const FASTEST_EXCHANGE_PER_S = 50

/** Below this the last water of a freezing liquid holds on, g: it slows the freezing and ends it at 0. */
const LAST_WATER_G = 1

/** Less ice than this is none, g. */
const LEAST_ICE_G = 1e-6

/** Time in which the core of a piece of ice comes to the freezing point, s. */
const CORE_TIME_CONSTANT_S = 3

/** A liquid with solid ice in it. The ice is dry: its surface water has joined the liquid. */
export interface Mixture {
  liquid: Liquid
  temperatureC: number
  iceG: number
  /** Temperature of the ice core; meaningless while `iceG` is 0. */
  iceTemperatureC: number
}

/** Everything one stage with ice needs to know. */
export interface StageParameters {
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
  durationS: number
  roomTemperatureC: number
  /** Conductance from the room to the drink, W/K. */
  leakWPerK: number
}

export interface StageSample {
  timeS: number
  temperatureC: number
  freezingPointC: number
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
  outcome: 'done' | 'tooManySteps'
  after: Mixture
  /** Ice that became liquid in this stage; negative when a very cold core froze liquid, g. */
  meltG: number
  surfaceWaterG: number
  /** When the last ice was gone, or undefined. */
  iceGoneAtS: number | undefined
  samples: StageSample[]
  heat: HeatLedger
}

/** Error allowed in a step: g, J, g, g·K, J. A whole stage stays within a milligram of the exact answer. */
const STEP_TOLERANCE = [3e-5, 0.02, 3e-5, 3e-4, 0.02]

/** Indices into the state that is integrated. */
const ADDED = 0
const HEAT = 1
const ICE = 2
/** Ice mass times core temperature, g·K: linear in the energy, so that a step keeps it exactly. */
const COLD = 3
const ROOM = 4

/**
 * One stage of chilling: a heat balance of liquid and vessel (one temperature), ice with a core
 * colder than its surface, stirring and the room. At the start the ice's surface water joins at
 * 0 °C. When the ice is gone the drink only warms.
 * @param before what is there at the start; ice already in it stays and counts as dry
 * @param sampleS times in s at which to report, rising
 */
export function runStage(before: Mixture, p: StageParameters, sampleS: readonly number[] = []): StageResult {
  const surfaceWaterG = p.iceG * p.surfaceWaterFraction
  const newIceG = p.iceG - surfaceWaterG
  const withWater = (addedG: number): Liquid => ({
    ...before.liquid,
    waterG: Math.max(0, before.liquid.waterG + addedG),
  })
  const startIceG = before.iceG + newIceG
  const startColdGK = before.iceG * (before.iceG > 0 ? before.iceTemperatureC : 0) + newIceG * p.iceTemperatureC
  const startHeatJ = enthalpyJOf(before.liquid, before.temperatureC) + p.vesselJPerK * p.vesselTemperatureC
  const totalJ = (heatJ: number, iceG: number, coldGK: number) =>
    heatJ - LATENT_HEAT_J_PER_G * iceG + ICE_J_PER_G_K * coldGK

  const liquid = withWater(0)
  const temperatureOf = (y: readonly number[]) => {
    liquid.waterG = Math.max(0, before.liquid.waterG + (y[ADDED] as number))
    return temperatureCFromEnthalpy(liquid, y[HEAT] as number, p.vesselJPerK)
  }
  const flow = (hasIce: boolean) => (y: readonly number[], out: number[]) => {
    liquid.waterG = Math.max(0, before.liquid.waterG + (y[ADDED] as number))
    const heatCapacityJPerK = heatCapacityJPerKOf(liquid) + p.vesselJPerK
    const temperatureC = ((y[HEAT] as number) - mixingHeatJOf(liquid)) / heatCapacityJPerK
    const fastestWPerK = FASTEST_EXCHANGE_PER_S * heatCapacityJPerK
    const roomW = Math.min(p.leakWPerK, fastestWPerK) * (p.roomTemperatureC - temperatureC)
    out[ROOM] = roomW
    out[HEAT] = p.stirringPowerW + roomW
    if (!hasIce) {
      out[ADDED] = 0
      out[ICE] = 0
      out[COLD] = 0
      return
    }
    const freezingC = freezingPointCOf(liquid)
    const iceG = Math.max(y[ICE] as number, 0)
    const coreC = iceG > 1e-9 ? Math.min(0, Math.max(-80, (y[COLD] as number) / iceG)) : freezingC
    let coreRateKPerS = (freezingC - coreC) / CORE_TIME_CONSTANT_S
    const toIceW = Math.min(p.uaWPerK, fastestWPerK) * (temperatureC - freezingC)
    const coreJPerK = iceG * ICE_J_PER_G_K
    const perGramJ = LATENT_HEAT_J_PER_G + WATER_J_PER_G_K * freezingC - ICE_J_PER_G_K * coreC
    let meltGPerS = (toIceW - coreJPerK * coreRateKPerS) / perGramJ
    if (meltGPerS < 0 && liquid.waterG < LAST_WATER_G) {
      meltGPerS *= liquid.waterG / LAST_WATER_G
      coreRateKPerS = coreJPerK > 0 ? (toIceW - meltGPerS * perGramJ) / coreJPerK : 0
    }
    out[ADDED] = meltGPerS
    out[HEAT] += meltGPerS * WATER_J_PER_G_K * freezingC - toIceW
    out[ICE] = -meltGPerS
    out[COLD] = iceG * coreRateKPerS - coreC * meltGPerS
  }
  const sampleOf = (timeS: number, y: readonly number[]): StageSample => {
    const temperatureC = temperatureOf(y)
    const freezingPointC = freezingPointCOf(liquid)
    return { timeS, temperatureC, freezingPointC, addedWaterG: y[ADDED] as number, iceG: Math.max(0, y[ICE] as number) }
  }

  /** Puts what rounding left of the ice into the liquid, with its energy. */
  const withoutIce = (y: readonly number[]): number[] => {
    const restG = y[ICE] as number
    const restJ = totalJ(0, restG, y[COLD] as number)
    return [(y[ADDED] as number) + restG, (y[HEAT] as number) + restJ, 0, 0, y[ROOM] as number]
  }
  const asScooped = [surfaceWaterG, startHeatJ, startIceG, startColdGK, 0]
  const hasIce = startIceG > LEAST_ICE_G
  const start = hasIce ? asScooped : withoutIce(asScooped)
  const tolerance = STEP_TOLERANCE
  const first = integrate({
    start,
    endS: p.durationS,
    derivative: flow(hasIce),
    tolerance,
    until: hasIce ? (y) => y[ICE] as number : undefined,
    sampleS,
  })
  let { state } = first
  let outcome = first.outcome
  const samples = first.samples.map((s) => sampleOf(s.timeS, s.state))
  let iceGoneAtS: number | undefined
  if (first.outcome === 'stopped') {
    iceGoneAtS = first.timeS
    state = withoutIce(state)
    const rest = integrate({
      start: state,
      endS: p.durationS - first.timeS,
      derivative: flow(false),
      tolerance,
      sampleS: sampleS.slice(samples.length).map((s) => s - first.timeS),
    })
    samples.push(...rest.samples.map((s) => sampleOf(s.timeS + first.timeS, s.state)))
    state = rest.state
    outcome = rest.outcome
  }

  const iceG = state[ICE] as number
  const coldGK = state[COLD] as number
  const stirringJ = p.stirringPowerW * p.durationS
  const roomJ = state[ROOM] as number
  const beforeJ = totalJ(startHeatJ, startIceG, startColdGK)
  const afterJ = totalJ(state[HEAT] as number, iceG, coldGK)
  return {
    outcome: outcome === 'maxSteps' ? 'tooManySteps' : 'done',
    after: {
      liquid: withWater(state[ADDED] as number),
      temperatureC: temperatureOf(state),
      iceG,
      iceTemperatureC: iceG > 0 ? coldGK / iceG : 0,
    },
    meltG: startIceG - iceG,
    surfaceWaterG,
    iceGoneAtS,
    samples,
    heat: { stirringJ, roomJ, beforeJ, afterJ, residualJ: afterJ - beforeJ - stirringJ - roomJ },
  }
}

/** The part of a mixture that goes on when this share of the ice (0 to 1) comes along. */
export function pourOut(mixture: Mixture, iceThroughFraction: number): Mixture {
  return { ...mixture, iceG: mixture.iceG * iceThroughFraction }
}
