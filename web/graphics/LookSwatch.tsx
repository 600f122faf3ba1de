import { type Look, lookWords } from '@conch/core/palate'
import { useId } from 'react'

/** A liquid held against the light: its colour, and drops of haze as dense as it is cloudy. */
export function LookSwatch({ look, size = 28 }: { look: Look; size?: number }) {
  const id = useId()
  const words = lookWords(look)
  const gap = 9 - 6 * Math.min(1, look.cloudiness)
  return (
    <svg width={size} height={size} role="img" aria-label={words} className="shrink-0">
      <title>{words}</title>
      <defs>
        <pattern id={id} width={gap} height={gap} patternUnits="userSpaceOnUse" patternTransform="rotate(30)">
          <circle cx={gap / 2} cy={gap / 2} r={0.9} fill="#fffdf5" fillOpacity={0.85} />
        </pattern>
      </defs>
      <rect width={size} height={size} fill={look.colour} />
      {look.cloudiness >= 0.1 && <rect width={size} height={size} fill={`url(#${id})`} />}
      <rect x={0.5} y={0.5} width={size - 1} height={size - 1} fill="none" stroke="var(--hair)" />
    </svg>
  )
}
