import type { GlassReport } from '@conch/core/drink'
import { heightMmOf, radiusMmAt, type VesselProfile } from '@conch/core/vessel'
import { useId } from 'react'
import { mlText } from './format.ts'
import { type Layer, layersOf, sectionPath, spreadLabels, stipplePath } from './glassGeometry.ts'

interface GlassSectionProps {
  profile: VesselProfile
  stemMm?: number
  glass: Pick<GlassReport, 'name' | 'strata' | 'fill' | 'atHandOver'>
  /** Another state of it to hold against: a draft's saved version, the other well. */
  ghost?: { profile: VesselProfile; fill: GlassReport['fill'] } | undefined
  /** Greatest height and width of the picture in px; the scale follows from the narrower. */
  height?: number
  maxWidth?: number
  /** Another vessel that stands next to it, drawn by itself: both are drawn to one scale. */
  beside?: { profile: VesselProfile; stemMm?: number; iceTopMm: number } | undefined
  hasLabels?: boolean
}

const WALL_MM = 2.2
const LABEL_GAP = 15

/**
 * The glass section: the real vessel cut through, to scale, with what the model says is in it.
 * Every layer has a pattern as well as a colour, so that it reads in black and white.
 */
export function GlassSection({
  profile,
  stemMm = 0,
  glass,
  ghost,
  height: maxHeight = 300,
  maxWidth = 350,
  beside,
  hasLabels = true,
}: GlassSectionProps) {
  const id = useId()
  const { fill } = glass
  const heightMm = heightMmOf(profile)
  const heapMm = Math.max(0, fill.iceTopMm - heightMm)
  const widestMm = Math.max(...profile.map((p) => p.radiusMm), ...(ghost?.profile.map((p) => p.radiusMm) ?? []))
  const foamTopMm = fill.foamTopMm ?? 0
  const aboveMm =
    Math.max(heapMm, foamTopMm - heightMm, ghost ? Math.max(0, heightMmOf(ghost.profile) - heightMm) : 0) + 8
  const belowMm = WALL_MM + stemMm + 4
  const labelWidth = hasLabels ? 158 : 6
  const roomMm = [{ upMm: aboveMm + heightMm + belowMm, acrossMm: 2 * (widestMm + WALL_MM) + 6 }]
  if (beside) {
    const topMm = Math.max(beside.iceTopMm, heightMmOf(beside.profile)) + 8
    const radiusMm = Math.max(...beside.profile.map((p) => p.radiusMm))
    roomMm.push({ upMm: topMm + WALL_MM + (beside.stemMm ?? 0) + 4, acrossMm: 2 * (radiusMm + WALL_MM) + 6 })
  }
  const scale = Math.min(
    ...roomMm.map(({ upMm, acrossMm }) => Math.min(maxHeight / upMm, (maxWidth - labelWidth) / acrossMm)),
  )
  const height = Math.max(scale * (aboveMm + heightMm + belowMm), hasLabels ? 110 : 0)
  const width = (2 * (widestMm + WALL_MM) + 6) * scale + labelWidth
  const centre = (widestMm + WALL_MM + 3) * scale
  const layers = layersOf(profile, glass)
  const isOver = fill.overflowMl >= 1
  const yOf = (mm: number) => (aboveMm + heightMm - mm) * scale
  const edgeOf = (mm: number) => centre + radiusMmAt(profile, Math.min(mm, heightMm)) * scale

  const labels = [
    ...layers.map((l) => ({
      y: yOf((l.fromMm + l.toMm) / 2),
      x: edgeOf((l.fromMm + l.toMm) / 2),
      text: `${l.label} ${mlText(l.volumeMl)}`,
      tone: 'var(--ink)',
    })),
    ...(glass.atHandOver.iceLeftG >= 1
      ? [
          {
            y: yOf(Math.min(fill.iceTopMm, heightMm + heapMm) - 2),
            x: edgeOf(Math.min(fill.iceTopMm, heightMm)) - 6,
            text: `ice ${Math.round(glass.atHandOver.iceLeftG)} g`,
            tone: 'var(--soft)',
          },
        ]
      : []),
    ...(foamTopMm > fill.washLineMm + 0.5
      ? [{ y: yOf(foamTopMm - 1), x: edgeOf(Math.min(foamTopMm, heightMm)) - 3, text: 'froth', tone: 'var(--soft)' }]
      : []),
    {
      y: yOf(fill.washLineMm),
      x: edgeOf(fill.washLineMm),
      text: `wash line ${Math.round(fill.washLineMm)} mm`,
      tone: 'var(--ink)',
    },
    ...(isOver
      ? [
          {
            y: yOf(heightMm) - 4,
            x: edgeOf(heightMm) + WALL_MM * scale,
            text: `over by ${Math.round(fill.overflowMl)} ml`,
            tone: 'var(--stop)',
          },
        ]
      : []),
  ]
  const placed = spreadLabels(labels, LABEL_GAP, height - 6)
  const words = labels.map((l) => l.text).join(', ')

  return (
    <svg
      width={width}
      height={height}
      viewBox={`0 0 ${width} ${height}`}
      role="img"
      aria-label={`${glass.name}, cut through: ${words}`}
      className="max-w-full"
    >
      <Patterns id={id} />
      <g transform={`translate(${centre} ${aboveMm * scale}) scale(${scale})`}>
        {layers.map((l) => (
          <LayerShape key={l.kind} id={id} layer={l} profile={profile} />
        ))}
        <Foam profile={profile} fill={fill} />
        <Ice profile={profile} fill={fill} />
        <Wall profile={profile} stemMm={stemMm} />
        {ghost && (
          <g
            data-mark="ghost"
            data-says="the glass as it was"
            transform={`translate(0 ${heightMm - heightMmOf(ghost.profile)})`}
            stroke="var(--soft)"
            fill="none"
            strokeWidth={0.7}
            strokeDasharray="2 1.6"
          >
            <path
              d={sectionPath(ghost.profile, 0, heightMmOf(ghost.profile))}
              strokeOpacity={ghost.profile === profile ? 0 : 1}
            />
            <path
              d={`M${-radiusMmAt(ghost.profile, ghost.fill.washLineMm) - 4} ${heightMmOf(ghost.profile) - ghost.fill.washLineMm}H${radiusMmAt(ghost.profile, ghost.fill.washLineMm) + 4}`}
              strokeWidth={1}
            />
          </g>
        )}
        <path
          d={`M${-radiusMmAt(profile, fill.washLineMm)} ${heightMm - fill.washLineMm}H${radiusMmAt(profile, fill.washLineMm)}`}
          stroke="var(--ink)"
          strokeWidth={1}
        />
        {isOver && <Spill profile={profile} overflowMl={fill.overflowMl} />}
      </g>
      {hasLabels &&
        placed.map((l) => (
          <g key={l.text} fontSize={12} fill={l.tone}>
            <path
              d={`M${l.x + 2} ${l.y}L${width - labelWidth + 2} ${l.at}H${width - labelWidth + 10}`}
              fill="none"
              stroke="var(--hair)"
            />
            <text x={width - labelWidth + 13} y={l.at + 4}>
              {l.text}
            </text>
          </g>
        ))}
    </svg>
  )
}

const FILLS: Record<Layer['kind'], { colour: string; pattern?: string }> = {
  poured: { colour: 'var(--liquid)' },
  melt: { colour: 'var(--shallow)', pattern: 'melt' },
  added: { colour: 'var(--shoal)', pattern: 'added' },
  float: { colour: 'var(--float)', pattern: 'float' },
}

function LayerShape({ id, layer, profile }: { id: string; layer: Layer; profile: VesselProfile }) {
  const { colour, pattern } = FILLS[layer.kind]
  const d = sectionPath(profile, layer.fromMm, layer.toMm)
  return (
    <g>
      <path d={d} fill={colour} />
      {pattern && <path d={d} fill={`url(#${id}-${pattern})`} />}
    </g>
  )
}

function Patterns({ id }: { id: string }) {
  return (
    <defs>
      <pattern id={`${id}-melt`} width="3" height="3" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
        <line x1="0" x2="0" y1="0" y2="3" stroke="var(--melt)" strokeWidth="0.8" />
      </pattern>
      <pattern id={`${id}-added`} width="4" height="4" patternUnits="userSpaceOnUse">
        <circle cx="1" cy="1" r="0.7" fill="none" stroke="var(--added)" strokeWidth="0.5" />
        <circle cx="3" cy="3" r="0.5" fill="none" stroke="var(--added)" strokeWidth="0.5" />
      </pattern>
      <pattern id={`${id}-float`} width="1.8" height="3" patternUnits="userSpaceOnUse">
        <line x1="0.5" x2="0.5" y1="0" y2="3" stroke="var(--paper)" strokeWidth="0.4" />
      </pattern>
    </defs>
  )
}

function Ice({ profile, fill }: { profile: VesselProfile; fill: GlassReport['fill'] }) {
  if (fill.iceTopMm - fill.iceBottomMm < 0.5) return null
  const d = stipplePath(profile, fill.iceBottomMm, fill.iceTopMm, 4.2)
  return <path d={d} fill="var(--paper)" stroke="var(--ice)" strokeWidth={0.45} />
}

/** Froth on the liquid: small rings, up to where it stands; above the brim as wide as the brim. */
function Foam({ profile, fill }: { profile: VesselProfile; fill: GlassReport['fill'] }) {
  const { washLineMm, foamTopMm = 0 } = fill
  if (foamTopMm - washLineMm < 0.5) return null
  const top = heightMmOf(profile)
  const rows = Math.max(1, Math.round((foamTopMm - washLineMm) / 2.6))
  const rings = Array.from({ length: rows }, (_, row) => {
    const mm = washLineMm + ((row + 0.5) / rows) * (foamTopMm - washLineMm)
    const radius = radiusMmAt(profile, Math.min(mm, top)) - 1.5
    const count = Math.max(3, Math.floor((2 * radius) / 3.2))
    return Array.from({ length: count }, (__, i) => {
      const x = -radius + ((i + (row % 2 ? 0.7 : 0.3)) * 2 * radius) / count
      return <circle key={`${row} ${i}`} cx={x} cy={top - mm} r={1.2} />
    })
  })
  return (
    <g fill="var(--paper)" stroke="var(--hair)" strokeWidth={0.45}>
      {rings}
    </g>
  )
}

function Wall({ profile, stemMm }: { profile: VesselProfile; stemMm: number }) {
  const top = heightMmOf(profile)
  const points = profile.map((p) => ({ x: p.radiusMm, y: top - p.heightMm }))
  const at = (p: { x: number; y: number }) => `${p.x.toFixed(2)} ${p.y.toFixed(2)}`
  const mirrored = (list: typeof points) => list.map((p) => ({ x: -p.x, y: p.y })).reverse()
  const outside = points.map((p) => ({ x: p.x + WALL_MM, y: p.y }))
  const base = (points[0]?.x ?? 0) + WALL_MM
  const bottom = [
    { x: base, y: top + WALL_MM },
    { x: -base, y: top + WALL_MM },
  ]
  // Down the inside on the left, up on the right, over the brim, and back round the outside.
  const path = [
    ...mirrored(points),
    ...points,
    ...[...outside].reverse(),
    ...bottom,
    ...mirrored([...outside].reverse()),
  ]
  const whole = `M${path.map(at).join('L')}Z`
  const foot = Math.max(18, base * 1.4)
  const stem =
    stemMm > 0 ? `M2.500 ${top + WALL_MM}V${top + WALL_MM + stemMm - 3}L${foot} ${top + WALL_MM + stemMm}H0` : ''
  return (
    <g fill="var(--buff)" stroke="var(--ink)" strokeWidth={0.7} strokeLinejoin="round">
      <path d={whole} />
      {stem && <path d={stem} fill="none" />}
      {stem && <path d={stem} fill="none" transform="scale(-1 1)" />}
    </g>
  )
}

/** What ran over, as drops down the outside: more of them for more. */
function Spill({ profile, overflowMl }: { profile: VesselProfile; overflowMl: number }) {
  const drops = Math.min(9, 2 + Math.round(overflowMl / 8))
  const brim = profile[profile.length - 1] as { radiusMm: number }
  return (
    <g fill="none" stroke="var(--stop)" strokeWidth={1.1} strokeLinecap="round">
      {Array.from({ length: drops }, (_, i) => {
        const side = i % 2 === 0 ? 1 : -1
        return <path key={i} d={`M${side * (brim.radiusMm + WALL_MM + 1.5)} ${2 + i * 6}v3.500`} />
      })}
    </g>
  )
}
