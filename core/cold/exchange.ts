import {
  COLDEST_FREEZING_POINT_C,
  enthalpyJOf,
  HEAT_CAPACITY_J_PER_G_K,
  REFERENCE_C,
  ThinnedLiquid,
  waterEnthalpyJPerG,
} from '../liquid/index.ts'
import type { IcePile, Mixture } from './mixture.ts'
import type { Stretch } from './pace.ts'
import { iceEnthalpyJ, pilesOf } from './piles.ts'
import { DOMAIN, type PassedLimit, type StageParameters, type StageSample } from './stage.ts'
import { type AtSurface, meltingHeatJPerG, solveMelting, surfaceCOf } from './surface.ts'

const ICE_J_PER_G_K = HEAT_CAPACITY_J_PER_G_K.ice

/** A pile of less is none, g. */
const LEAST_ICE_G = 1e-6

/** Indices into the state; three for each pile follow. */
const ADDED = 0
const HEAT = 1
const ROOM = 2
const PILES = 3
const massAt = (pile: number) => PILES + 3 * pile
/** Mass times temperature of the core: what energy is counted with. */
const coldAt = (pile: number) => PILES + 3 * pile + 1
/** That temperature by itself, followed beside it: of the last grain of a pile the quotient says nothing. */
const coreAt = (pile: number) => PILES + 3 * pile + 2

type State = ArrayLike<number>

/** Error allowed in a step: g, J, J, and of each pile g, g·K, K. A whole stage stays within a milligram of the exact answer. */
const STEP_TOLERANCE = { addedG: 3e-3, heatJ: 2, iceG: 3e-3, coldGK: 3e-2, coreK: 0.1 }

/**
 * Liquid, vessel, room and piles of ice as a system of equations. Its state: water added, enthalpy of liquid and vessel
 * together, heat from the room so far, and of each pile its mass, its mass times the temperature of its core, and that
 * temperature. Every
 * rate takes from one what it gives to another, so that mass and energy close to rounding.
 */
export class Exchange {
  readonly surfaceWaterG: number
  readonly start: number[]
  readonly startIceG: number
  private readonly before: Mixture
  private readonly p: StageParameters
  private readonly filmJPerGK: number
  private readonly piles
  private readonly isThere: boolean[]
  /** Where each pile's melting was a moment ago: the next is near. */
  private readonly roots: number[]
  /** Written over at each question: there are hundreds of thousands a second. */
  private readonly liquid: ThinnedLiquid
  private readonly leastWaterG: number

  constructor(before: Mixture, p: StageParameters, filmJPerGK: number) {
    const { piles, surfaceWaterG } = pilesOf(before, p)
    this.before = before
    this.p = p
    this.filmJPerGK = filmJPerGK
    this.piles = piles
    this.surfaceWaterG = surfaceWaterG
    this.isThere = piles.map(() => true)
    this.roots = piles.map(() => 0)
    this.liquid = new ThinnedLiquid(before.liquid)
    this.leastWaterG = DOMAIN.leastWaterFraction * (before.liquid.waterG + surfaceWaterG)
    const heatJ =
      enthalpyJOf(before.liquid, before.temperatureC) +
      p.vesselJPerK * (p.vesselTemperatureC - REFERENCE_C) +
      surfaceWaterG * waterEnthalpyJPerG(0)
    this.start = [surfaceWaterG, heatJ, 0]
    let startIceG = 0
    for (const q of piles) {
      this.start.push(q.massG, q.coldGK, q.coldGK / q.massG)
      startIceG += q.massG
    }
    this.startIceG = startIceG
  }

  get hasIce(): boolean {
    return this.isThere.includes(true)
  }

  /** The components that rates depend on. */
  get dependsOn(): number[] {
    return [ADDED, HEAT, ...this.piles.flatMap((_, i) => (this.isThere[i] ? [massAt(i), coreAt(i)] : []))]
  }

  /** Error allowed in a step, per component. */
  tolerance(coarseness: number): number[] {
    const { addedG, heatJ, iceG, coldGK, coreK } = STEP_TOLERANCE
    const each = [addedG * coarseness, heatJ * coarseness, heatJ * coarseness]
    for (const _ of this.piles) each.push(iceG * coarseness, coldGK * coarseness, coreK * coarseness)
    return each
  }

  /** The rates of everything during a stretch. */
  flow({ uaWPerK, powerW }: Stretch): (y: State, out: Float64Array) => void {
    const { p, piles } = this
    const at: AtSurface = { liquidC: 0, coreC: 0, freezingPointC: 0, coreRatio: 0 }
    return (y, out) => {
      const liquidC = this.temperatureCOf(y)
      const roomW = p.leakWPerK * (p.roomTemperatureC - liquidC)
      let addedGPerS = 0
      let heatW = powerW + roomW
      const freezingPointC = uaWPerK > 0 ? this.liquid.freezingPointC : 0
      for (let i = 0; i < piles.length; i++) {
        out[massAt(i)] = 0
        out[coldAt(i)] = 0
        out[coreAt(i)] = 0
        if (!this.isThere[i] || !(uaWPerK > 0)) continue
        const { share, coreS } = piles[i] as (typeof piles)[number]
        const iceG = Math.max(0, y[massAt(i)] as number)
        const coreC = y[coreAt(i)] as number
        const ua = uaWPerK * share
        const coreWPerK = (iceG * ICE_J_PER_G_K) / coreS
        at.liquidC = liquidC
        at.coreC = coreC
        at.freezingPointC = freezingPointC
        at.coreRatio = coreWPerK / ua
        const u = solveMelting(at, this.roots[i], this.filmJPerGK)
        this.roots[i] = u
        const surfaceC = surfaceCOf(freezingPointC, u)
        const toSurfaceW = ua * (liquidC - surfaceC)
        const toCoreW = coreWPerK * (surfaceC - coreC)
        // Taken from the heats, not from u: energy closes whatever the root's last digit.
        const meltGPerS = (toSurfaceW - toCoreW) / meltingHeatJPerG(surfaceC, coreC)
        addedGPerS += meltGPerS
        heatW += meltGPerS * waterEnthalpyJPerG(surfaceC) - toSurfaceW
        out[massAt(i)] = -meltGPerS
        // The melting gram leaves at the core's temperature: melting alone does not change that.
        out[coldAt(i)] = toCoreW / ICE_J_PER_G_K - coreC * meltGPerS
        out[coreAt(i)] = (surfaceC - coreC) / coreS
      }
      out[ADDED] = addedGPerS
      out[HEAT] = heatW
      out[ROOM] = roomW
    }
  }

  /** Falls to nothing when one more pile does. */
  leastIceG(y: State): number {
    let least = Number.POSITIVE_INFINITY
    for (let i = 0; i < this.piles.length; i++)
      if (this.isThere[i]) least = Math.min(least, (y[massAt(i)] as number) - LEAST_ICE_G / 2)
    return least
  }

  /** Takes out the piles that are gone; what rounding left of them joins the liquid with its energy. */
  foldGone(y: number[]): void {
    this.piles.forEach((_, i) => {
      const restG = y[massAt(i)] as number
      if (!this.isThere[i] || restG > LEAST_ICE_G) return
      this.isThere[i] = false
      y[ADDED] = (y[ADDED] as number) + restG
      y[HEAT] = (y[HEAT] as number) + iceEnthalpyJ(restG, y[coldAt(i)] as number)
      y[massAt(i)] = 0
      y[coldAt(i)] = 0
    })
  }

  /** The limit of the model that this state is beyond, if it is. */
  limitPassed(y: State, touches: boolean): PassedLimit | undefined {
    const temperatureC = this.temperatureCOf(y)
    if (temperatureC > DOMAIN.hottestC) return { limit: 'hot', temperatureC }
    if (!touches || !this.hasIce) return undefined
    if (this.liquid.waterG < this.leastWaterG) {
      const waterFraction = (DOMAIN.leastWaterFraction * this.liquid.waterG) / this.leastWaterG
      return { limit: 'solid', waterFraction }
    }
    const { freezingPointC } = this.liquid
    return freezingPointC < COLDEST_FREEZING_POINT_C ? { limit: 'freezingPoint', freezingPointC } : undefined
  }

  /** Sets the liquid to what it is in this state, too. */
  private temperatureCOf(y: State): number {
    const { liquid } = this
    liquid.setWater(Math.max(0, this.before.liquid.waterG + (y[ADDED] as number)))
    return REFERENCE_C + ((y[HEAT] as number) - liquid.mixingHeatJ) / (liquid.heatCapacityJPerK + this.p.vesselJPerK)
  }

  iceG(y: State): number {
    let sum = 0
    for (let i = 0; i < this.piles.length; i++) sum += Math.max(0, y[massAt(i)] as number)
    return sum
  }

  /** Enthalpy of everything, J. */
  totalJ(y: State): number {
    return this.piles.reduce(
      (sum, _, i) => sum + iceEnthalpyJ(y[massAt(i)] as number, y[coldAt(i)] as number),
      y[HEAT] as number,
    )
  }

  roomJ(y: State): number {
    return y[ROOM] as number
  }

  mixture(y: State): Mixture {
    const temperatureC = this.temperatureCOf(y)
    const ice: IcePile[] = []
    this.piles.forEach(({ kind }, i) => {
      const massG = y[massAt(i)] as number
      if (massG > 0) ice.push({ ...(kind ? { kind } : {}), massG, temperatureC: (y[coldAt(i)] as number) / massG })
    })
    return {
      liquid: { ...this.before.liquid, waterG: this.liquid.waterG },
      temperatureC,
      ice,
    }
  }

  sample(timeS: number, y: State): StageSample {
    const temperatureC = this.temperatureCOf(y)
    const at = this.liquid.freezingPointC
    const freezingPointC = at < COLDEST_FREEZING_POINT_C ? null : at
    return { timeS, temperatureC, freezingPointC, addedWaterG: y[ADDED] as number, iceG: this.iceG(y) }
  }
}
