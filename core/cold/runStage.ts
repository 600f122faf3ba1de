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
import { ICE_KINDS, type IceCharge, type IceKind } from './ice.ts'
import { REST_UA_W_PER_K } from './methods.ts'
import type { Mixture } from './mixture.ts'

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
  /** When the last ice was gone, or undefined, s. */
  iceGoneAtS: number | undefined
  samples: StageSample[]
  /** The mixture at each sample, as the stage could be ended there. */
  states: Mixture[]
  heat: HeatLedger
}

/** Error allowed in a step: g, J, J, and of each pile of ice g, g·K. A whole stage stays within a milligram of the exact answer. */
const STEP_TOLERANCE = { addedG: 3e-5, heatJ: 0.02, iceG: 3e-5, coldGK: 3e-4 }

/** Indices into the state that is integrated; two for each pile of ice follow. */
const ADDED = 0
const HEAT = 1
const ROOM = 2
const PILES = 3
/** Of pile i: its mass, and mass times core temperature, g·K, linear in the energy, so that a step keeps it exactly. */
const iceAt = (i: number) => PILES + 2 * i
const coldAt = (i: number) => PILES + 2 * i + 1

/** Stretches of work and of rest, in order. */
function segmentsOf(p: StageParameters): { durationS: number; uaWPerK: number; powerW: number }[] {
  const bursts = Math.max(1, Math.round(p.bursts ?? 1))
  const { restS = 0, waitS = 0 } = p
  if (waitS <= 0 && (bursts === 1 || restS <= 0))
    return p.durationS > 0 ? [{ durationS: p.durationS, uaWPerK: p.uaWPerK, powerW: p.stirringPowerW }] : []
  const work = { durationS: p.durationS / bursts, uaWPerK: p.uaWPerK, powerW: p.stirringPowerW }
  const still = { uaWPerK: Math.min(p.uaWPerK, REST_UA_W_PER_K), powerW: 0 }
  const segments = Array.from({ length: bursts }, (_, i) =>
    i === 0 ? [work] : [{ ...still, durationS: restS }, work],
  ).flat()
  return [{ ...still, durationS: waitS }, ...segments].filter((s) => s.durationS > 0)
}

/** From the first ice to the last burst, s. */
export function clockSOf(p: StageParameters): number {
  return segmentsOf(p).reduce((sum, s) => sum + s.durationS, 0)
}

/** The ice of a stage kind by kind, as scooped. */
function chargesIn(p: StageParameters): readonly IceCharge[] {
  if (p.charges) return p.charges
  if (p.iceG <= 0) return []
  return [{ massG: p.iceG, temperatureC: p.iceTemperatureC, surfaceWaterFraction: p.surfaceWaterFraction }]
}

/** Piles of what is there and what comes new, each kind once: their masses and colds add. */
function pilesOf(before: Mixture, charges: readonly IceCharge[]): { kind?: IceKind; iceG: number; coldGK: number }[] {
  const piles: { kind?: IceKind; iceG: number; coldGK: number }[] = []
  const add = (kind: IceKind | undefined, iceG: number, temperatureC: number) => {
    if (iceG <= 0) return
    const same = piles.find((q) => q.kind === kind)
    if (same) {
      same.iceG += iceG
      same.coldGK += iceG * temperatureC
    } else piles.push({ ...(kind ? { kind } : {}), iceG, coldGK: iceG * temperatureC })
  }
  for (const q of before.ice) add(q.kind, q.massG, q.temperatureC)
  for (const c of charges) add(c.kind, c.massG * (1 - c.surfaceWaterFraction), c.temperatureC)
  return piles
}

/**
 * One stage of chilling: a heat balance of liquid and vessel (one temperature), ice with a core
 * colder than its surface, stirring and the room. At the start the ice's surface water joins at
 * 0 °C. Several kinds share the conductance by their surface, and one that is gone takes its share
 * along: what agitator cubes are for. When the last ice is gone the drink only warms.
 * @param before what is there at the start; ice already in it stays and counts as dry
 * @param sampleS times in s since the ice went in at which to report, rising
 * @param coarseness how many times the usual error a step may make; for runs by the thousand
 */
export function runStage(
  before: Mixture,
  p: StageParameters,
  sampleS: readonly number[] = [],
  coarseness = 1,
): StageResult {
  const charges = chargesIn(p)
  const surfaceWaterG = charges.reduce((sum, c) => sum + c.massG * c.surfaceWaterFraction, 0)
  const piles = pilesOf(before, charges)
  const startIceG = piles.reduce((sum, q) => sum + q.iceG, 0)
  const surfaces = piles.map((q) => q.iceG * (q.kind ? ICE_KINDS[q.kind].surfaceShare : 1))
  const surface = surfaces.reduce((sum, s) => sum + s, 0)
  const shares = surfaces.map((s) => (surface > 0 ? s / surface : 0))
  const isThere = piles.map(() => true)
  const withWater = (addedG: number): Liquid => ({
    ...before.liquid,
    waterG: Math.max(0, before.liquid.waterG + addedG),
  })
  const startHeatJ = enthalpyJOf(before.liquid, before.temperatureC) + p.vesselJPerK * p.vesselTemperatureC
  const totalJ = (y: ArrayLike<number>) =>
    piles.reduce(
      (sum, _, i) => sum - LATENT_HEAT_J_PER_G * (y[iceAt(i)] as number) + ICE_J_PER_G_K * (y[coldAt(i)] as number),
      y[HEAT] as number,
    )
  const iceIn = (y: ArrayLike<number>) => piles.reduce((sum, _, i) => sum + Math.max(0, y[iceAt(i)] as number), 0)

  const liquid = withWater(0)
  const temperatureOf = (y: ArrayLike<number>) => {
    liquid.waterG = Math.max(0, before.liquid.waterG + (y[ADDED] as number))
    return temperatureCFromEnthalpy(liquid, y[HEAT] as number, p.vesselJPerK)
  }

  const flow = (uaWPerK: number, powerW: number) => (y: ArrayLike<number>, out: Float64Array) => {
    liquid.waterG = Math.max(0, before.liquid.waterG + (y[ADDED] as number))
    const heatCapacityJPerK = heatCapacityJPerKOf(liquid) + p.vesselJPerK
    const temperatureC = ((y[HEAT] as number) - mixingHeatJOf(liquid)) / heatCapacityJPerK
    const fastestWPerK = FASTEST_EXCHANGE_PER_S * heatCapacityJPerK
    const roomW = Math.min(p.leakWPerK, fastestWPerK) * (p.roomTemperatureC - temperatureC)
    out[ROOM] = roomW
    let addedGPerS = 0
    let heatW = powerW + roomW
    const freezingC = freezingPointCOf(liquid)
    for (let i = 0; i < piles.length; i++) {
      if (!isThere[i]) {
        out[iceAt(i)] = 0
        out[coldAt(i)] = 0
        continue
      }
      const iceG = Math.max(y[iceAt(i)] as number, 0)
      const coreC = iceG > 1e-9 ? Math.min(0, Math.max(-80, (y[coldAt(i)] as number) / iceG)) : freezingC
      let coreRateKPerS = (freezingC - coreC) / CORE_TIME_CONSTANT_S
      const toIceW = Math.min(uaWPerK, fastestWPerK) * (shares[i] as number) * (temperatureC - freezingC)
      const coreJPerK = iceG * ICE_J_PER_G_K
      const perGramJ = LATENT_HEAT_J_PER_G + WATER_J_PER_G_K * freezingC - ICE_J_PER_G_K * coreC
      let meltGPerS = (toIceW - coreJPerK * coreRateKPerS) / perGramJ
      if (meltGPerS < 0 && liquid.waterG < LAST_WATER_G) {
        meltGPerS *= liquid.waterG / LAST_WATER_G
        coreRateKPerS = coreJPerK > 0 ? (toIceW - meltGPerS * perGramJ) / coreJPerK : 0
      }
      addedGPerS += meltGPerS
      heatW += meltGPerS * WATER_J_PER_G_K * freezingC - toIceW
      out[iceAt(i)] = -meltGPerS
      out[coldAt(i)] = iceG * coreRateKPerS - coreC * meltGPerS
    }
    out[ADDED] = addedGPerS
    out[HEAT] = heatW
  }
  const mixtureOf = (y: ArrayLike<number>): Mixture => ({
    liquid: withWater(y[ADDED] as number),
    temperatureC: temperatureOf(y),
    ice: piles.flatMap(({ kind }, i) => {
      const massG = y[iceAt(i)] as number
      return massG > 0 ? [{ ...(kind ? { kind } : {}), massG, temperatureC: (y[coldAt(i)] as number) / massG }] : []
    }),
  })
  const sampleOf = (timeS: number, y: ArrayLike<number>): StageSample => {
    const temperatureC = temperatureOf(y)
    const freezingPointC = freezingPointCOf(liquid)
    return { timeS, temperatureC, freezingPointC, addedWaterG: y[ADDED] as number, iceG: iceIn(y) }
  }

  let state = [surfaceWaterG, startHeatJ, 0, ...piles.flatMap((q) => [q.iceG, q.coldGK])]
  const beforeJ = totalJ(state)
  /** Puts what rounding left of piles that are gone into the liquid, with its energy. */
  const foldGone = (leastIceG = LEAST_ICE_G) => {
    piles.forEach((_, i) => {
      const restG = state[iceAt(i)] as number
      if (!isThere[i] || restG > leastIceG) return
      isThere[i] = false
      const restJ = ICE_J_PER_G_K * (state[coldAt(i)] as number) - LATENT_HEAT_J_PER_G * restG
      state[ADDED] = (state[ADDED] as number) + restG
      state[HEAT] = (state[HEAT] as number) + restJ
      state[iceAt(i)] = 0
      state[coldAt(i)] = 0
    })
  }
  foldGone()

  const tolerance = [
    STEP_TOLERANCE.addedG,
    STEP_TOLERANCE.heatJ,
    STEP_TOLERANCE.heatJ,
    ...piles.flatMap(() => [STEP_TOLERANCE.iceG, STEP_TOLERANCE.coldGK]),
  ].map((t) => t * coarseness)
  const samples: StageSample[] = []
  const states: Mixture[] = []
  let timeS = 0
  let iceGoneAtS: number | undefined
  let outcome: StageResult['outcome'] = 'done'
  const segments = segmentsOf(p)
  for (const segment of segments.length > 0 ? segments : [{ durationS: 0, uaWPerK: 0, powerW: 0 }]) {
    let leftS = segment.durationS
    for (;;) {
      const hasIce = isThere.some(Boolean)
      const startS = timeS
      const ran = integrate({
        start: state,
        endS: leftS,
        derivative: flow(segment.uaWPerK, segment.powerW),
        tolerance,
        // A pile stops the clock as soon as it is no more.
        until: hasIce
          ? (y) => {
              let least = Number.POSITIVE_INFINITY
              for (let i = 0; i < piles.length; i++) if (isThere[i]) least = Math.min(least, y[iceAt(i)] as number)
              return least
            }
          : undefined,
        sampleS: sampleS.slice(samples.length).map((s) => s - startS),
      })
      for (const s of ran.samples) {
        samples.push(sampleOf(s.timeS + startS, s.state))
        states.push(mixtureOf(s.state))
      }
      state = [...ran.state]
      timeS += ran.timeS
      leftS -= ran.timeS
      if (ran.outcome === 'maxSteps') outcome = 'tooManySteps'
      if (ran.outcome !== 'stopped') break
      // The step that found it may leave a breath above nothing.
      foldGone(
        Math.max(LEAST_ICE_G, Math.min(...piles.flatMap((_, i) => (isThere[i] ? (state[iceAt(i)] as number) : [])))),
      )
      if (!isThere.some(Boolean)) iceGoneAtS = timeS
      if (leftS <= 0) break
    }
  }
  const stirringJ = p.stirringPowerW * p.durationS
  const roomJ = state[ROOM] as number
  const afterJ = totalJ(state)
  return {
    outcome,
    after: mixtureOf(state),
    meltG: startIceG - iceIn(state),
    surfaceWaterG,
    iceGoneAtS,
    samples,
    states,
    heat: { stirringJ, roomJ, beforeJ, afterJ, residualJ: afterJ - beforeJ - stirringJ - roomJ },
  }
}
