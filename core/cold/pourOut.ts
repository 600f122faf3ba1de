import { massGOf, scaleLiquid } from '../liquid/index.ts'
import { ICE_KINDS } from './ice.ts'
import { POURS, type Pour } from './methods.ts'
import { type IcePile, iceGOf, type Mixture } from './mixture.ts'

/** However little there is, this share of it comes out of the tin. */
const LEAST_THROUGH_FRACTION = 0.5

export interface PouredOut {
  /** What goes on. */
  mixture: Mixture
  /** Liquid that stays on the ice left behind, and as a film on tin and strainer, g. */
  heldBackG: number
  /** Ice that stays behind, g. */
  iceLeftBehindG: number
}

/**
 * What a pour lets through.
 * @param from a tin or another vessel, which keeps a film; the serving glass, out of which nothing is
 *   poured; or nothing in particular: a stage that says everything itself, and keeps nothing back
 */
export function pourOut(mixture: Mixture, pour: Pour, from: 'tin' | 'glass' | 'nothing' = 'tin'): PouredOut {
  if (from === 'glass') return { mixture, heldBackG: 0, iceLeftBehindG: 0 }
  const throughFraction = ({ kind }: IcePile) =>
    pour === 'gated' && kind ? ICE_KINDS[kind].gatedThroughFraction : POURS[pour].iceThroughFraction
  const ice = mixture.ice.map((p) => ({ ...p, massG: p.massG * throughFraction(p) })).filter((p) => p.massG > 0)
  const iceLeftBehindG = iceGOf(mixture) - iceGOf({ ice })
  if (from === 'nothing') return { mixture: { ...mixture, ice }, heldBackG: 0, iceLeftBehindG }
  const clingingG = mixture.ice.reduce(
    (sum, p) => sum + (p.kind ? p.massG * (1 - throughFraction(p)) * ICE_KINDS[p.kind].clingFraction : 0),
    0,
  )
  const liquidG = massGOf(mixture.liquid)
  const heldBackG = Math.min(clingingG + POURS[pour].filmG, liquidG * (1 - LEAST_THROUGH_FRACTION))
  const throughShare = liquidG > 0 ? 1 - heldBackG / liquidG : 1
  return { mixture: { ...mixture, liquid: scaleLiquid(mixture.liquid, throughShare), ice }, heldBackG, iceLeftBehindG }
}
