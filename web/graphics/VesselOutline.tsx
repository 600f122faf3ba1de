import { heightMmOf, type VesselProfile } from '@conch/core/vessel'

/** An empty vessel cut through, to scale among its like: which one is it? */
export function VesselOutline({
  profile,
  stemMm = 0,
  pxPerMm = 0.7,
}: {
  profile: VesselProfile
  stemMm?: number
  pxPerMm?: number
}) {
  const heightMm = heightMmOf(profile)
  const widestMm = Math.max(...profile.map((p) => p.radiusMm))
  const [width, height] = [2 * widestMm + 8, heightMm + stemMm + 8]
  const x = (mm: number) => width / 2 + mm
  const y = (mm: number) => 4 + heightMm - mm
  const right = profile.map((p) => `${x(p.radiusMm)} ${y(p.heightMm)}`)
  const left = [...profile].reverse().map((p) => `${x(-p.radiusMm)} ${y(p.heightMm)}`)
  const foot = profile[0]?.radiusMm ?? widestMm / 2
  return (
    <svg viewBox={`0 0 ${width} ${height}`} width={width * pxPerMm} height={height * pxPerMm} aria-hidden="true">
      <path
        d={`M${[...left, ...right].join('L')}${stemMm > 0 ? `M${width / 2} ${y(0)}V${y(-stemMm)}M${x(-Math.max(foot, 18))} ${y(-stemMm)}H${x(Math.max(foot, 18))}` : ''}`}
        fill="none"
        stroke="var(--ink)"
        strokeWidth={2.5}
        strokeLinejoin="round"
      />
    </svg>
  )
}
