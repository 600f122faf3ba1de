import { ICE_G_PER_ML } from '../liquid/constants.ts'
import { bisect } from '../solve/bisect.ts'
import { brimMlOf, heightMmOf, levelMmOf, type VesselProfile, volumeMlBelow } from './vessel.ts'

/** What stands in a glass. */
export interface Contents {
  /** All the liquid, a float included, ml. */
  liquidMl: number
  liquidDensityGPerMl: number
  iceG: number
  /** Share of the ice's bulk that is solid, 0 to 1; 1 for one block. */
  packedSolidFraction: number
  /** Froth that stands on the liquid, ml. Default 0. */
  foamMl?: number
}

/** Of froth, by volume: the rest is air. */
export const FROTH_LIQUID_SHARE = 0.2

/** Where everything stands in the glass. Heights from the inner bottom. */
export interface Fill {
  brimMl: number
  heightMm: number
  /** Height of the liquid's surface; the brim when it runs over. */
  washLineMm: number
  washLinePct: number
  /** Liquid that does not stay in the glass, that of froth above the brim too, ml. */
  overflowMl: number
  /** Lowest and highest ice. Equal when there is none; the top may stand above the brim. */
  iceBottomMm: number
  iceTopMm: number
  /** Bulk of ice standing above the brim, ml. */
  iceAboveBrimMl: number
  /** The ice reaches the bottom and holds the liquid in its gaps, rather than floating. */
  isPacked: boolean
  /** Top of the froth; above the brim it stands as a column. */
  foamTopMm?: number
  /** Froth that stands above the brim, ml. */
  foamAboveBrimMl?: number
}

/**
 * Liquid and ice in a glass. Ice floats and lifts the liquid by its own mass; when there is so
 * much that the pile reaches the bottom, the liquid stands in the gaps of the packed ice instead
 * and the rest of the pile is above it.
 */
export function fillGlass(profile: VesselProfile, c: Contents): Fill {
  const brimMl = brimMlOf(profile)
  const heightMm = heightMmOf(profile)
  const solid = c.packedSolidFraction
  const bulkMl = c.iceG / (ICE_G_PER_ML * solid)
  const foamMl = c.foamMl ?? 0
  // What froth holds is not below it.
  const liquidMl = Math.max(c.liquidMl / 2, c.liquidMl - FROTH_LIQUID_SHARE * foamMl)
  const displacedMl = c.liquidDensityGPerMl > 0 ? c.iceG / c.liquidDensityGPerMl : 0
  const floatingSurfaceMl = liquidMl + displacedMl
  // A floating pile dips this much of its bulk below the surface.
  const dippedBulkMl = displacedMl / solid
  const isPacked = c.iceG > 0 && solid < 1 && dippedBulkMl > floatingSurfaceMl
  const surfaceMl = isPacked ? liquidMl / (1 - solid) : floatingSurfaceMl
  const iceTopMl = isPacked ? Math.max(bulkMl, surfaceMl) : surfaceMl + (bulkMl - dippedBulkMl)
  const iceBottomMl = isPacked ? 0 : Math.max(0, surfaceMl - dippedBulkMl)
  const washLineMm = levelMmOf(profile, surfaceMl)
  const iceAboveBrimMl = c.iceG > 0 ? Math.max(0, iceTopMl - Math.max(brimMl, 0)) : 0
  // In the gaps of a pile froth climbs higher.
  const foamTopMl = Math.min(surfaceMl, brimMl) + foamMl / (isPacked ? 1 - solid : 1)
  const foamAboveBrimMl = foamMl > 0 ? Math.min(foamMl, Math.max(0, foamTopMl - brimMl)) : 0
  const liquidOverMl = Math.max(0, surfaceMl - brimMl) * (isPacked ? 1 - solid : 1)
  const overflowMl = liquidOverMl + FROTH_LIQUID_SHARE * foamAboveBrimMl
  return {
    brimMl,
    heightMm,
    washLineMm,
    washLinePct: (100 * washLineMm) / heightMm,
    overflowMl,
    iceBottomMm: c.iceG > 0 ? levelMmOf(profile, Math.min(iceBottomMl, brimMl)) : washLineMm,
    iceTopMm: c.iceG > 0 ? heightOfHeap(profile, iceTopMl) : washLineMm,
    iceAboveBrimMl,
    isPacked,
    ...(foamMl > 0
      ? {
          foamTopMm: heightOfHeap(profile, foamTopMl),
          foamAboveBrimMl,
        }
      : {}),
  }
}

/** Height of a bulk that may stand above the brim: up there as a column as wide as the brim. */
function heightOfHeap(profile: VesselProfile, bulkMl: number): number {
  const brimMl = brimMlOf(profile)
  if (bulkMl <= brimMl) return levelMmOf(profile, bulkMl)
  const brim = profile[profile.length - 1] as { heightMm: number; radiusMm: number }
  return brim.heightMm + ((bulkMl - brimMl) * 1000) / (Math.PI * brim.radiusMm ** 2)
}

/** The ice that brings the wash line to a height, or why there is none. */
export type IceForWashLine =
  | { outcome: 'found'; iceG: number }
  | { outcome: 'alreadyAbove'; washLineMm: number }
  | { outcome: 'cannotReach'; highestMm: number }

/**
 * Ice in g that lifts the wash line to `washLineMm`. More ice lifts it only until the pile stands
 * on the bottom, so that some lines cannot be reached: then `highestMm` says how far it goes.
 */
export function iceForWashLine(
  profile: VesselProfile,
  contents: Omit<Contents, 'iceG'>,
  washLineMm: number,
): IceForWashLine {
  const surfaceMl = (iceG: number) => {
    const { liquidMl, liquidDensityGPerMl, packedSolidFraction: solid } = contents
    const floatingMl = liquidMl + iceG / liquidDensityGPerMl
    return Math.min(floatingMl, solid < 1 ? liquidMl / (1 - solid) : Number.POSITIVE_INFINITY)
  }
  const targetMl = volumeMlBelow(profile, washLineMm)
  if (surfaceMl(0) >= targetMl) return { outcome: 'alreadyAbove', washLineMm: levelMmOf(profile, surfaceMl(0)) }
  const mostG = brimMlOf(profile) * 1.2
  const found = bisect((g) => surfaceMl(g) - targetMl, 0, mostG, { tolerance: 1e-4 })
  if (found.outcome === 'converged') return { outcome: 'found', iceG: found.value }
  return { outcome: 'cannotReach', highestMm: levelMmOf(profile, surfaceMl(mostG)) }
}
