import type { Mixture } from '../cold/index.ts'
import type { Froth } from './froth.ts'
import type { Water } from './report.ts'
import type { ResolvedPour } from './resolve.ts'

/** A drink on its way, between two stages. */
export interface InHand {
  mixture: Mixture
  water: Water
  /** Share of the liquid that has not stayed behind on ice and tin, 0 to 1. */
  throughShare: number
  froth: Froth
}

/** A drink before any ice. */
export interface Start extends InHand {
  volumeBeforeIceMl: number
  /** Froth that the juices in it could raise, ml. */
  mostFoamMl: number
  inGlass: ResolvedPour[]
  float: ResolvedPour[]
}
