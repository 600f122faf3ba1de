import { WATER_G_PER_ML } from '../liquid/constants.ts'
import { brimMlOf, type ProfilePoint, profileProblem, type VesselProfile } from './vessel.ts'

/** Families of glasses: inner radius against height, both as shares of what the brim has. */
export const SHAPES = {
  straight: {
    label: 'straight',
    points: [
      [0, 0.96],
      [1, 1],
    ],
  },
  tapered: {
    label: 'wider to the top',
    points: [
      [0, 0.72],
      [1, 1],
    ],
  },
  bowl: {
    label: 'round bowl',
    points: [
      [0, 0.3],
      [0.08, 0.62],
      [0.2, 0.82],
      [0.4, 0.95],
      [0.7, 1.02],
      [1, 1],
    ],
  },
  cone: {
    label: 'pointed cone',
    points: [
      [0, 0.06],
      [1, 1],
    ],
  },
  saucer: {
    label: 'shallow saucer',
    points: [
      [0, 0.2],
      [0.15, 0.55],
      [0.4, 0.82],
      [0.7, 0.95],
      [1, 1],
    ],
  },
  tulip: {
    label: 'belly and a narrower mouth',
    points: [
      [0, 0.55],
      [0.15, 0.95],
      [0.4, 1.2],
      [0.7, 1.16],
      [1, 1],
    ],
  },
  waisted: {
    label: 'narrow waist',
    points: [
      [0, 0.78],
      [0.3, 0.66],
      [0.7, 0.86],
      [1, 1],
    ],
  },
} as const satisfies Record<string, { label: string; points: readonly (readonly [number, number])[] }>
export type Shape = keyof typeof SHAPES

const rounded = (mm: number) => Number(mm.toFixed(2))

/**
 * A glass of a family by what one measures with a ruler and a scale: inner height and brim volume.
 * Radii are scaled until it holds that volume; exactly, but for their rounding to a hundredth of a mm.
 * @param heightMm more than 0
 * @param brimMl more than 0
 */
export function profileOfShape(shape: Shape, heightMm: number, brimMl: number): VesselProfile {
  const unit = SHAPES[shape].points.map(([h, r]) => ({ heightMm: h * heightMm, radiusMm: r }))
  const factor = Math.sqrt(brimMl / brimMlOf(unit))
  return unit.map((p) => ({ heightMm: rounded(p.heightMm), radiusMm: rounded(p.radiusMm * factor) }))
}

/** Water in a glass up to a height: what the scale says in all, g. */
export interface WaterLevel {
  heightMm: number
  waterG: number
}

export type WeighedProfile =
  | {
      ok: true
      profile: VesselProfile /** Largest difference between a weighing and the glass that was made of them, %. */
      offPct: number
    }
  | { ok: false; problem: string }

/**
 * A glass by weighing water at some heights, the brim the last: the mean radius of each stretch, drawn
 * through smoothly, and scaled until the brim holds what was weighed.
 */
export function profileFromWater(levels: readonly WaterLevel[]): WeighedProfile {
  const sorted = [...levels].sort((a, b) => a.heightMm - b.heightMm)
  if (sorted.length < 2) return { ok: false, problem: 'weigh at two heights at least; the last is the brim' }
  const means: { fromMm: number; toMm: number; radiusMm: number }[] = []
  let before = { heightMm: 0, waterG: 0 }
  for (const level of sorted) {
    const risenMm = level.heightMm - before.heightMm
    if (risenMm <= 0) return { ok: false, problem: `${level.heightMm} mm is there twice; each height once, above 0` }
    const addedG = level.waterG - before.waterG
    if (addedG <= 0)
      return {
        ok: false,
        problem: `at ${level.heightMm} mm the scale said ${level.waterG} g, no more than ${before.waterG} g lower down: it would narrow to nothing`,
      }
    const areaMm2 = ((addedG / WATER_G_PER_ML) * 1000) / risenMm
    means.push({ fromMm: before.heightMm, toMm: level.heightMm, radiusMm: Math.sqrt(areaMm2 / Math.PI) })
    before = level
  }
  const points: ProfilePoint[] = []
  means.forEach((m, i) => {
    const last = means[i - 1]
    const next = means[i + 1]
    if (i === 0)
      points.push({ heightMm: 0, radiusMm: Math.max(0.5, next ? (3 * m.radiusMm - next.radiusMm) / 2 : m.radiusMm) })
    const atTop = next ? (m.radiusMm + next.radiusMm) / 2 : last ? (3 * m.radiusMm - last.radiusMm) / 2 : m.radiusMm
    points.push({ heightMm: m.toMm, radiusMm: Math.max(0.5, atTop) })
  })
  const brimMl = (sorted.at(-1)?.waterG ?? 0) / WATER_G_PER_ML
  const factor = Math.sqrt(brimMl / brimMlOf(points))
  const profile = points.map((p) => ({ heightMm: rounded(p.heightMm), radiusMm: rounded(p.radiusMm * factor) }))
  const problem = profileProblem(profile)
  if (problem) return { ok: false, problem: `the wall ${problem}` }
  const offPct = Math.max(
    ...sorted.map((l) => {
      const ml = l.waterG / WATER_G_PER_ML
      return 100 * Math.abs(brimMlOf(upTo(profile, l.heightMm)) / ml - 1)
    }),
  )
  return { ok: true, profile, offPct }
}

/** The part of a glass below one of its own heights. */
function upTo(profile: VesselProfile, heightMm: number): VesselProfile {
  return profile.filter((p) => p.heightMm <= heightMm + 1e-6)
}
