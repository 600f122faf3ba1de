import { acidCurveOf } from '@conch/core/formula'
import type { Lot } from '@conch/core/lots'

const WIDTH = 300
const HEIGHT = 90
const LEFT = 34
const BOTTOM = 16

/** Acid of a lot against its age, once it was measured at two different times. */
export function AcidCurve({ lot }: { lot: Lot }) {
  const curve = acidCurveOf(lot)
  if (!curve) return null
  const { points, perHour } = curve
  const ages = points.map((p) => p.ageH)
  const acids = points.map((p) => p.acidGPer100Ml)
  const [from, to] = [Math.min(0, ...ages), Math.max(...ages)]
  const [least, most] = [Math.min(...acids), Math.max(...acids)]
  const span = Math.max(0.2, most - least)
  const x = (ageH: number) => LEFT + ((ageH - from) / (to - from)) * (WIDTH - LEFT - 8)
  const y = (acid: number) => 8 + ((most + span * 0.1 - acid) / (span * 1.2)) * (HEIGHT - BOTTOM - 8)
  const hours = to - (ages[0] ?? 0)
  const words = `acid from ${acids[0]?.toFixed(2)} to ${acids.at(-1)?.toFixed(2)} g in 100 ml in ${hours.toFixed(1)} h: ${perHour < 0 ? '−' : '+'}${Math.abs(perHour).toFixed(2)} an hour`
  return (
    <figure className="mt-4">
      <svg width={WIDTH} height={HEIGHT} role="img" aria-label={words}>
        <path d={`M${LEFT} 4V${HEIGHT - BOTTOM}H${WIDTH}`} fill="none" stroke="var(--hair)" />
        <path
          d={points.map((p, i) => `${i === 0 ? 'M' : 'L'}${x(p.ageH)} ${y(p.acidGPer100Ml)}`).join('')}
          fill="none"
          stroke="var(--ink)"
          strokeWidth={1.5}
        />
        {points.map((p) => (
          <circle key={p.ageH} cx={x(p.ageH)} cy={y(p.acidGPer100Ml)} r={3} fill="var(--ink)" />
        ))}
        {[...new Set([most, least])].map((acid) => (
          <text key={acid} x={LEFT - 4} y={y(acid) + 4} textAnchor="end" fontSize={11} fill="var(--soft)">
            {acid.toFixed(1)}
          </text>
        ))}
        <text x={WIDTH - 2} y={HEIGHT - 3} textAnchor="end" fontSize={11} fill="var(--soft)">
          {to.toFixed(0)} h old
        </text>
      </svg>
      <figcaption className="caption">{words}. Drinks are computed with the last reading.</figcaption>
    </figure>
  )
}
