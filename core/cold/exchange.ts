import {
  COLDEST_FREEZING_POINT_C,
  enthalpyJOf,
  HEAT_CAPACITY_J_PER_G_K,
  REFERENCE_C,
  ThinnedLiquid,
  waterEnthalpyJPerG,
} from '../liquid/index.ts'
import type { IceKind } from './ice.ts'
import type { IcePile, Mixture } from './mixture.ts'
import type { Stretch } from './pace.ts'
import { iceEnthalpyJ, type Pile, pilesOf } from './piles.ts'
import { DOMAIN, type PassedLimit, type StageParameters, type StageSample } from './stage.ts'
import { type AtSurface, followMelting, type MeltingRoot, meltingHeatJPerG, surfaceCAtRoot } from './surface.ts'

const ICE_J_PER_G_K = HEAT_CAPACITY_J_PER_G_K.ice

/** A pile of less is none, g. */
const LEAST_ICE_G = 1e-6

/** Indices into the state; those of each pile follow. */
const HEAT = 0
const ROOM = 1
const PILES = 2
const OF_PILE = 3

/** A pile in the course of a stage: where it stands in the state, and how liquid and core are to its surface now. */
class MeltingPile implements AtSurface, MeltingRoot {
  readonly kind: IceKind | undefined
  readonly share: number
  readonly coreS: number
  readonly mass: number
  /** Mass times temperature of its core: what energy is counted with. */
  readonly cold: number
  /** That temperature by itself, followed beside it: of the last grain of a pile the quotient says nothing. */
  readonly core: number
  isThere = true
  liquidC = Number.NaN
  coreC = Number.NaN
  freezingPointC = Number.NaN
  coreRatio = Number.NaN
  u = 0
  thinning = 1

  constructor({ kind, share, coreS }: Pile, mass: number) {
    this.kind = kind
    this.share = share
    this.coreS = coreS
    this.mass = mass
    this.cold = mass + 1
    this.core = mass + 2
  }
}

/** Error allowed in a step: J, and of each pile g, g·K, K. A whole stage stays within a milligram of the exact answer. */
const STEP_TOLERANCE = { heatJ: 3, iceG: 4e-3, coldGK: 0.2, coreK: 0.2 }

/**
 * Liquid, vessel, room and piles of ice as a system of equations. Its state: enthalpy of liquid and vessel together, heat
 * from the room so far, and of each pile its mass, its mass times the temperature of its core, and that temperature. What
 * ice has lost is water; and every rate of heat takes from one what it gives to another, so that energy closes to rounding.
 */
export class Exchange {
  readonly surfaceWaterG: number
  readonly start: Float64Array
  readonly startIceG: number
  private readonly before: Mixture
  private readonly p: StageParameters
  private readonly filmJPerGK: number
  /** Written over at each question: there are hundreds of thousands a second. */
  private readonly piles: readonly MeltingPile[]
  private readonly liquid: ThinnedLiquid
  /** Water with all the ice in it. */
  private readonly mostWaterG: number
  private readonly leastWaterG: number

  constructor(before: Mixture, p: StageParameters, filmJPerGK: number) {
    const { piles, surfaceWaterG } = pilesOf(before, p)
    this.before = before
    this.p = p
    this.filmJPerGK = filmJPerGK
    this.surfaceWaterG = surfaceWaterG
    this.liquid = new ThinnedLiquid(before.liquid)
    const heatJ =
      enthalpyJOf(before.liquid, before.temperatureC) +
      p.vesselJPerK * (p.vesselTemperatureC - REFERENCE_C) +
      surfaceWaterG * waterEnthalpyJPerG(0)
    this.start = new Float64Array(PILES + OF_PILE * piles.length)
    this.start[HEAT] = heatJ
    let startIceG = 0
    this.piles = piles.map((pile, i) => {
      const q = new MeltingPile(pile, PILES + OF_PILE * i)
      this.start[q.mass] = pile.massG
      this.start[q.cold] = pile.coldGK
      this.start[q.core] = pile.coldGK / pile.massG
      startIceG += pile.massG
      return q
    })
    this.startIceG = startIceG
    this.mostWaterG = before.liquid.waterG + surfaceWaterG + startIceG
    this.leastWaterG = DOMAIN.leastWaterFraction * (before.liquid.waterG + surfaceWaterG)
  }

  get hasIce(): boolean {
    return this.piles.some((q) => q.isThere)
  }

  /** The components that rates depend on. */
  get dependsOn(): number[] {
    return [HEAT, ...this.piles.flatMap((q) => (q.isThere ? [q.mass, q.core] : []))]
  }

  /** Error allowed in a step, per component. */
  tolerance(coarseness: number): number[] {
    const { heatJ, iceG, coldGK, coreK } = STEP_TOLERANCE
    const each = [heatJ * coarseness, heatJ * coarseness]
    for (const _ of this.piles) each.push(iceG * coarseness, coldGK * coarseness, coreK * coarseness)
    return each
  }

  /** The rates of everything during a stretch. */
  flow({ uaWPerK, powerW }: Stretch): (y: Float64Array, out: Float64Array) => void {
    const { p, piles, filmJPerGK } = this
    const touches = uaWPerK > 0
    return (y, out) => {
      const liquidC = this.temperatureCOf(y)
      const roomW = p.leakWPerK * (p.roomTemperatureC - liquidC)
      const freezingPointC = touches ? this.liquid.freezingPointC : 0
      let heatW = powerW + roomW
      for (let i = 0; i < piles.length; i++) {
        const q = piles[i] as MeltingPile
        const { mass, cold, core, coreS } = q
        if (!touches || !q.isThere) {
          out[mass] = 0
          out[cold] = 0
          out[core] = 0
          continue
        }
        const iceG = Math.max(0, y[mass] as number)
        const coreC = y[core] as number
        const ua = uaWPerK * q.share
        const coreWPerK = (iceG * ICE_J_PER_G_K) / coreS
        q.liquidC = liquidC
        q.coreC = coreC
        q.freezingPointC = freezingPointC
        q.coreRatio = coreWPerK / ua
        followMelting(q, q, filmJPerGK)
        const surfaceC = surfaceCAtRoot(q, q.u, filmJPerGK)
        const toSurfaceW = ua * (liquidC - surfaceC)
        const toCoreW = coreWPerK * (surfaceC - coreC)
        // Taken from the heats, not from u: energy closes whatever the root's last digit.
        const meltGPerS = (toSurfaceW - toCoreW) / meltingHeatJPerG(surfaceC, coreC)
        heatW += meltGPerS * waterEnthalpyJPerG(surfaceC) - toSurfaceW
        out[mass] = -meltGPerS
        // The melting gram leaves at the core's temperature: melting alone does not change that.
        out[cold] = toCoreW / ICE_J_PER_G_K - coreC * meltGPerS
        out[core] = (surfaceC - coreC) / coreS
      }
      out[HEAT] = heatW
      out[ROOM] = roomW
    }
  }

  /** Falls to nothing when one more pile does. */
  leastIceG(y: Float64Array): number {
    let least = Number.POSITIVE_INFINITY
    for (let i = 0; i < this.piles.length; i++) {
      const q = this.piles[i] as MeltingPile
      if (q.isThere) least = Math.min(least, (y[q.mass] as number) - LEAST_ICE_G / 2)
    }
    return least
  }

  /** Takes out the piles that are gone; what rounding left of them joins the liquid with its energy. */
  foldGone(y: Float64Array): void {
    for (const q of this.piles) {
      const restG = y[q.mass] as number
      if (!q.isThere || restG > LEAST_ICE_G) continue
      q.isThere = false
      y[HEAT] = (y[HEAT] as number) + iceEnthalpyJ(restG, y[q.cold] as number)
      y[q.mass] = 0
      y[q.cold] = 0
    }
  }

  /** The limit of the model that this state is beyond, if it is. */
  limitPassed(y: Float64Array, touches: boolean): PassedLimit | undefined {
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
  private temperatureCOf(y: Float64Array): number {
    const { liquid } = this
    liquid.setWater(Math.max(0, this.mostWaterG - this.massG(y)))
    return REFERENCE_C + ((y[HEAT] as number) - liquid.mixingHeatJ) / (liquid.heatCapacityJPerK + this.p.vesselJPerK)
  }

  /** Of all piles; a trial step may go below nothing. */
  private massG(y: Float64Array): number {
    let sum = 0
    for (let mass = PILES; mass < y.length; mass += OF_PILE) sum += y[mass] as number
    return sum
  }

  iceG(y: Float64Array): number {
    return Math.max(0, this.massG(y))
  }

  /** Enthalpy of everything, J. */
  totalJ(y: Float64Array): number {
    return this.piles.reduce(
      (sum, q) => sum + iceEnthalpyJ(y[q.mass] as number, y[q.cold] as number),
      y[HEAT] as number,
    )
  }

  roomJ(y: Float64Array): number {
    return y[ROOM] as number
  }

  mixture(y: Float64Array): Mixture {
    const temperatureC = this.temperatureCOf(y)
    const { ethanolG, sugarG, acidG, fatG, otherG } = this.before.liquid
    const ice: IcePile[] = []
    for (const { kind, mass, cold } of this.piles) {
      const massG = y[mass] as number
      if (massG > 0) ice.push({ ...(kind ? { kind } : {}), massG, temperatureC: (y[cold] as number) / massG })
    }
    return {
      liquid: { waterG: this.liquid.waterG, ethanolG, sugarG, acidG, fatG, otherG },
      temperatureC,
      ice,
    }
  }

  sample(timeS: number, y: Float64Array): StageSample {
    const temperatureC = this.temperatureCOf(y)
    const at = this.liquid.freezingPointC
    const freezingPointC = at < COLDEST_FREEZING_POINT_C ? null : at
    return {
      timeS,
      temperatureC,
      freezingPointC,
      addedWaterG: this.liquid.waterG - this.before.liquid.waterG,
      iceG: this.iceG(y),
    }
  }
}
