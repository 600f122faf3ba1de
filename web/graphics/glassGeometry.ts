import type { GlassReport } from '@conch/core/drink'
import { heightMmOf, levelMmOf, radiusMmAt, type VesselProfile, volumeMlBelow } from '@conch/core/vessel'

/** A layer of liquid in a glass, from height to height in mm. */
export interface Layer {
  kind: 'poured' | 'melt' | 'added' | 'float'
  label: string
  volumeMl: number
  fromMm: number
  toMm: number
}

const LAYERS = [
  { kind: 'poured', label: 'poured', key: 'pouredMl' },
  { kind: 'melt', label: 'meltwater', key: 'meltMl' },
  { kind: 'added', label: 'added in the glass', key: 'addedInGlassMl' },
  { kind: 'float', label: 'float', key: 'floatMl' },
] as const

/**
 * The strata of a glass at their true heights: each takes the share of the space below the wash
 * line that it has of the liquid, so that ice among them lifts them all alike.
 */
export function layersOf(profile: VesselProfile, glass: Pick<GlassReport, 'strata' | 'fill'>): Layer[] {
  const spaceMl = volumeMlBelow(profile, glass.fill.washLineMm)
  const liquidMl = LAYERS.reduce((sum, l) => sum + glass.strata[l.key], 0)
  let belowMl = 0
  return LAYERS.flatMap(({ kind, label, key }) => {
    const volumeMl = glass.strata[key]
    if (volumeMl <= 0.05 || liquidMl <= 0) return []
    const fromMm = levelMmOf(profile, belowMl)
    belowMl += (volumeMl / liquidMl) * spaceMl
    return [{ kind, label, volumeMl, fromMm, toMm: Math.min(levelMmOf(profile, belowMl), glass.fill.washLineMm) }]
  })
}

/** The inner outline from height to height as an SVG path, in mm, y downwards from the brim. */
export function sectionPath(profile: VesselProfile, fromMm: number, toMm: number): string {
  const top = heightMmOf(profile)
  const heights = [fromMm, ...profile.map((p) => p.heightMm).filter((h) => h > fromMm && h < toMm), toMm]
  const right = heights.map((h) => `${radiusMmAt(profile, h).toFixed(2)} ${(top - h).toFixed(2)}`)
  const left = [...heights].reverse().map((h) => `${(-radiusMmAt(profile, h)).toFixed(2)} ${(top - h).toFixed(2)}`)
  return `M${right.join('L')}L${left.join('L')}Z`
}

/** Labels beside a drawing, moved apart so that none covers another; order is kept. */
export function spreadLabels<T extends { y: number }>(
  labels: readonly T[],
  gap: number,
  lowest: number,
): (T & { at: number })[] {
  const sorted = [...labels].sort((a, b) => a.y - b.y)
  let before = Number.NEGATIVE_INFINITY
  const placed = sorted.map((label) => {
    const at = Math.max(label.y, before + gap)
    before = at
    return { ...label, at }
  })
  // Too low at the end: push back up.
  let limit = lowest
  for (let i = placed.length - 1; i >= 0; i--) {
    const label = placed[i] as (typeof placed)[number]
    label.at = Math.min(label.at, limit)
    limit = label.at - gap
  }
  return placed
}

/** A number from 0 to 1 that two whole numbers always give. */
function scatter(a: number, b: number): number {
  const s = Math.sin(a * 127.1 + b * 311.7) * 43758.5453
  return s - Math.floor(s)
}

/**
 * Ice in a region as one path of small splinters: even, uneven enough, and the same at every
 * drawing. One path, since hundreds of elements would cost a frame with every key stroke.
 */
export function stipplePath(profile: VesselProfile, fromMm: number, toMm: number, spacingMm: number): string {
  const top = heightMmOf(profile)
  const brimMm = radiusMmAt(profile, top)
  const parts: string[] = []
  let row = 0
  for (let h = fromMm + spacingMm / 2; h < toMm; h += spacingMm, row++) {
    const heapShare = (h - top) / Math.max(1, toMm - top + spacingMm)
    const radius = h > top ? brimMm * Math.sqrt(Math.max(0, 1 - heapShare)) : radiusMmAt(profile, h)
    const count = Math.floor((2 * radius - 2) / spacingMm)
    for (let i = 0; i < count; i++) {
      const x = -radius + 1 + (i + 0.5 + (scatter(row, i) - 0.5) * 0.7) * ((2 * radius - 2) / count)
      const y = top - h + (scatter(i, row + 9) - 0.5) * spacingMm * 0.7
      const r = 0.55 + scatter(row + 3, i) * 0.55
      const by = (n: number) => n.toFixed(2)
      parts.push(
        `M${by(x - r)} ${by(y)}l${by(r * 0.8)} ${by(-r * 1.2)}l${by(r * 1.3)} ${by(r * 0.5)}l${by(-r * 0.5)} ${by(r * 1.4)}z`,
      )
    }
  }
  return parts.join('')
}
