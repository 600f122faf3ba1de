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
  const charges = chargesIn(p)
  const byKind = new Map<IceKind | undefined, { massG: number; coldGK: number }>()
  const add = (kind: IceKind | undefined, massG: number, temperatureC: number) => {
    if (massG <= 0) return
    const pile = byKind.get(kind) ?? { massG: 0, coldGK: 0 }
    pile.massG += massG
    pile.coldGK += massG * temperatureC
    byKind.set(kind, pile)
  }
  for (const q of before.ice) add(q.kind, q.massG, q.temperatureC)
  for (const c of charges) add(c.kind, c.massG * (1 - c.surfaceWaterFraction), c.temperatureC)
  const figures = (kind: IceKind | undefined) => (kind ? ICE_KINDS[kind] : NO_KIND)
  const all = [...byKind].map(([kind, pile]) => ({ kind, ...pile, surface: figures(kind).surfaceShare * pile.massG }))
  const surface = all.reduce((sum, q) => sum + q.surface, 0)
  return {
    piles: all.map(({ surface: own, ...q }) => ({ ...q, share: own / surface, coreS: figures(q.kind).coreS })),
    surfaceWaterG: charges.reduce((sum, c) => sum + Math.max(0, c.massG) * c.surfaceWaterFraction, 0),
  }
}

/** Enthalpy of ice, J, counted as that of liquids. */
export const iceEnthalpyJ = (massG: number, coldGK: number): number =>
  ICE_AT_0C_J_PER_G * massG + HEAT_CAPACITY_J_PER_G_K.ice * coldGK
