import { HEAT_CAPACITY_J_PER_G_K, ICE_AT_0C_J_PER_G } from '../liquid/index.ts'
import { ICE_KINDS, type IceCharge, type IceKind, NO_KIND } from './ice.ts'
import type { Mixture } from './mixture.ts'
import type { StageParameters } from './stage.ts'

/** All the ice of one kind in a stage. */
export interface Pile {
  kind: IceKind | undefined
  /** At the start, dry, g. */
  massG: number
  /** Mass times temperature of its core, g·K: linear in the energy. */
  coldGK: number
  /** Its share of the conductance to the liquid, for the whole stage. */
  share: number
  /** In which 63 % of the core's heat has passed, s. */
  coreS: number
}

/** The ice of a stage kind by kind, as scooped. */
function chargesIn(p: StageParameters): readonly IceCharge[] {
  if (p.charges) return p.charges
  return [{ massG: p.iceG, temperatureC: p.iceTemperatureC, surfaceWaterFraction: p.surfaceWaterFraction }]
}

/**
 * The piles of a stage: ice that is there already, dry, and what comes new, without its surface water. Each kind is one;
 * they share the conductance by the surface that they begin with.
 */
export function pilesOf(before: Mixture, p: StageParameters): { piles: Pile[]; surfaceWaterG: number } {
  const piles: Pile[] = []
  let surfaceWaterG = 0
  const add = (kind: IceKind | undefined, massG: number, temperatureC: number) => {
    if (massG <= 0) return
    let pile = piles.find((q) => q.kind === kind)
    if (!pile) {
      pile = { kind, massG: 0, coldGK: 0, share: 0, coreS: (kind ? ICE_KINDS[kind] : NO_KIND).coreS }
      piles.push(pile)
    }
    pile.massG += massG
    pile.coldGK += massG * temperatureC
  }
  for (const q of before.ice) add(q.kind, q.massG, q.temperatureC)
  for (const c of chargesIn(p)) {
    add(c.kind, c.massG * (1 - c.surfaceWaterFraction), c.temperatureC)
    surfaceWaterG += Math.max(0, c.massG) * c.surfaceWaterFraction
  }
  const surfaceOf = ({ kind, massG }: Pile) => (kind ? ICE_KINDS[kind] : NO_KIND).surfaceShare * massG
  let surface = 0
  for (const q of piles) surface += surfaceOf(q)
  for (const q of piles) q.share = surfaceOf(q) / surface
  return { piles, surfaceWaterG }
}

/** Enthalpy of ice, J, counted as that of liquids. */
export const iceEnthalpyJ = (massG: number, coldGK: number): number =>
  ICE_AT_0C_J_PER_G * massG + HEAT_CAPACITY_J_PER_G_K.ice * coldGK
