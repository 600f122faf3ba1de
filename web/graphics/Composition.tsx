import { type Liquid, massGOf } from '@conch/core/liquid'

/** What a liquid is made of, in the order of the bar. Patterns as well as colour. */
const PARTS = [
  { key: 'sugarG', label: 'sugar', fill: 'var(--buff)', pattern: 'dots' },
  { key: 'acidG', label: 'acid', fill: 'var(--shallow)', pattern: 'slant' },
  { key: 'ethanolG', label: 'alcohol', fill: 'var(--soft)', pattern: undefined },
  { key: 'fatG', label: 'fat', fill: 'var(--liquid)', pattern: 'rungs' },
  { key: 'otherG', label: 'other', fill: 'var(--hair)', pattern: undefined },
  { key: 'waterG', label: 'water', fill: 'var(--paper)', pattern: undefined },
] as const

/** A liquid as a bar of 100 g, cut into what it is made of; a second one under it is what it is held against. */
export function Composition({
  liquid,
  against,
  label,
}: {
  liquid: Liquid
  against?: Liquid | undefined
  label: string
}) {
  const share = (l: Liquid, key: (typeof PARTS)[number]['key']) => (massGOf(l) > 0 ? (100 * l[key]) / massGOf(l) : 0)
  const words = PARTS.filter((p) => share(liquid, p.key) >= 0.05).map(
    (p) => `${p.label} ${share(liquid, p.key).toFixed(1)} g`,
  )
  const bar = (l: Liquid, y: number, height: number, isGhost: boolean) => {
    let x = 0
    return PARTS.map((p) => {
      const width = share(l, p.key)
      const at = x
      x += width
      if (width < 0.05) return null
      return (
        <g key={p.key}>
          <rect
            x={at}
            y={y}
            width={width}
            height={height}
            fill={isGhost ? 'none' : p.fill}
            stroke="var(--ink)"
            strokeWidth={isGhost ? 0.3 : 0.4}
            strokeDasharray={isGhost ? '1 1' : undefined}
            vectorEffect="non-scaling-stroke"
          />
          {!isGhost && p.pattern && (
            <rect x={at} y={y} width={width} height={height} fill={`url(#composition-${p.pattern})`} />
          )}
        </g>
      )
    })
  }
  return (
    <figure>
      <svg
        viewBox={`0 0 100 ${against ? 15 : 10}`}
        preserveAspectRatio="none"
        className={`w-full ${against ? 'h-14' : 'h-10'}`}
        role="img"
        aria-label={`${label}, in 100 g: ${words.join(', ')}`}
      >
        <defs>
          <pattern id="composition-dots" width="2.4" height="2.4" patternUnits="userSpaceOnUse">
            <circle cx="0.7" cy="0.7" r="0.28" fill="var(--ink)" />
          </pattern>
          <pattern id="composition-slant" width="1.6" height="3" patternUnits="userSpaceOnUse">
            <path d="M0 3L1.6 0" stroke="var(--ink)" strokeWidth="0.25" />
          </pattern>
          <pattern id="composition-rungs" width="2" height="2" patternUnits="userSpaceOnUse">
            <path d="M0 1H2" stroke="var(--ink)" strokeWidth="0.3" />
          </pattern>
        </defs>
        {bar(liquid, 0, 10, false)}
        {against && bar(against, 11, 4, true)}
      </svg>
      <figcaption className="caption">in 100 g: {words.join(' · ')}</figcaption>
    </figure>
  )
}
