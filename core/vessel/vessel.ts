import { bisect } from '../solve/bisect.ts'

/** A point of the inner wall: height above the inner bottom and inner radius there, mm. */
export interface ProfilePoint {
  heightMm: number
  radiusMm: number
}

/** The inner wall from the bottom to the brim, heights rising from 0: a solid of revolution. */
export type VesselProfile = readonly ProfilePoint[]

const MM3_PER_ML = 1000

/** Volume of a frustum in ml. */
function frustumMl(heightMm: number, r0: number, r1: number): number {
  return (Math.PI * heightMm * (r0 * r0 + r0 * r1 + r1 * r1)) / 3 / MM3_PER_ML
}

/** From one point of the wall to the next. */
type Stretch = readonly [ProfilePoint, ProfilePoint]

/** A wall is asked for its stretches again and again: each is cut once. */
const cut = new WeakMap<VesselProfile, readonly Stretch[]>()

function stretchesOf(profile: VesselProfile): readonly Stretch[] {
  const known = cut.get(profile)
  if (known) return known
  const stretches: Stretch[] = []
  let before: ProfilePoint | undefined
  for (const point of profile) {
    if (before) stretches.push([before, point])
    before = point
  }
  cut.set(profile, stretches)
  return stretches
}

/** @throws RangeError for a wall without points */
function pointAt(profile: VesselProfile, index: 0 | -1): ProfilePoint {
  const point = profile.at(index)
  if (!point) throw new RangeError('a wall has at least a bottom and a brim')
  return point
}

/** Why these points are no vessel, or undefined when they are one. */
export function profileProblem(profile: VesselProfile): string | undefined {
  const first = profile[0]
  if (!first || profile.length < 2) return 'needs at least two points: the bottom and the brim'
  if (first.heightMm !== 0) return `must begin at height 0 mm, begins at ${first.heightMm} mm`
  for (const [i, [before, point]] of stretchesOf(profile).entries())
    if (!(point.heightMm > before.heightMm))
      return `heights must rise: point ${i + 2} is at ${point.heightMm} mm after ${before.heightMm} mm`
  if (profile.some((p) => !(p.radiusMm >= 0))) return 'a radius cannot be negative'
  if (profile.slice(1).some((p) => !(p.radiusMm > 0)))
    return 'narrows to nothing above the bottom: every radius there must be more than 0 mm'
  const brimMl = brimMlOf(profile)
  if (!(brimMl >= 5 && brimMl <= 20_000))
    return `holds ${brimMl.toFixed(1)} ml to the brim; a glass holds 5 to 20000 ml`
  return undefined
}

export function heightMmOf(profile: VesselProfile): number {
  return pointAt(profile, -1).heightMm
}

/** Inner radius at a height, mm; the bottom's or the brim's beyond either end. */
export function radiusMmAt(profile: VesselProfile, heightMm: number): number {
  const first = pointAt(profile, 0)
  if (heightMm <= 0) return first.radiusMm
  for (const [a, b] of stretchesOf(profile)) {
    if (heightMm <= b.heightMm) {
      return a.radiusMm + ((heightMm - a.heightMm) / (b.heightMm - a.heightMm)) * (b.radiusMm - a.radiusMm)
    }
  }
  return pointAt(profile, -1).radiusMm
}

/** Volume below a height, ml; the brim volume above the brim. */
export function volumeMlBelow(profile: VesselProfile, heightMm: number): number {
  let sumMl = 0
  for (const [a, b] of stretchesOf(profile)) {
    if (heightMm <= a.heightMm) break
    const top = Math.min(heightMm, b.heightMm)
    sumMl += frustumMl(top - a.heightMm, a.radiusMm, radiusMmAt(profile, top))
  }
  return sumMl
}

export function brimMlOf(profile: VesselProfile): number {
  return volumeMlBelow(profile, heightMmOf(profile))
}

/** Height to which a volume fills the vessel, mm; the brim's height for more than it holds. */
export function levelMmOf(profile: VesselProfile, volumeMl: number): number {
  const heightMm = heightMmOf(profile)
  if (volumeMl <= 0) return 0
  if (volumeMl >= brimMlOf(profile)) return heightMm
  let belowMl = 0
  for (const [a, b] of stretchesOf(profile)) {
    const stretchMm = b.heightMm - a.heightMm
    const stretchMl = frustumMl(stretchMm, a.radiusMm, b.radiusMm)
    if (volumeMl > belowMl + stretchMl) {
      belowMl += stretchMl
      continue
    }
    const widening = (b.radiusMm - a.radiusMm) / stretchMm
    const over = (h: number) => frustumMl(h, a.radiusMm, a.radiusMm + widening * h) - (volumeMl - belowMl)
    const found = bisect(over, 0, stretchMm, { tolerance: 1e-7 })
    // Rounding may put it a breath beyond the end of its stretch.
    return a.heightMm + (found.outcome === 'converged' ? found.value : stretchMm)
  }
  return heightMm
}

/** Area of the inner wall and bottom below a height, m²: what the room warms. */
export function wettedAreaM2(profile: VesselProfile, heightMm: number): number {
  const bottomMm = pointAt(profile, 0).radiusMm
  let areaMm2 = Math.PI * bottomMm * bottomMm
  for (const [a, b] of stretchesOf(profile)) {
    if (heightMm <= a.heightMm) break
    const top = Math.min(heightMm, b.heightMm)
    const r = radiusMmAt(profile, top)
    areaMm2 += Math.PI * (a.radiusMm + r) * Math.hypot(top - a.heightMm, r - a.radiusMm)
  }
  return areaMm2 / 1e6
}
