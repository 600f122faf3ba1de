interface SecondsWindowProps {
  /** The seconds between which the glass is in its standard; undefined when there are none. */
  window: { lowS: number; highS: number } | undefined
  /** The window goes on beyond what was looked at. */
  isOpenEnded?: boolean
  /** As the spec is written. */
  writtenS: number
  /** As it was solved. */
  solvedS?: number | undefined
  endS: number
  label: string
  width?: number
}

const HEIGHT = 30
const TICKS = [1, 2, 5, 10, 20, 30, 60]

/** The window of a clock: seconds as a line, the standard's window as a band, what is written and what was solved as marks. */
export function SecondsWindow({
  window,
  isOpenEnded,
  writtenS,
  solvedS,
  endS,
  label,
  width = 360,
}: SecondsWindowProps) {
  const x = (s: number) => Math.min(width - 1, Math.max(1, (s / endS) * width))
  const step = TICKS.find((t) => endS / t <= 8) ?? 60
  const ticks = Array.from({ length: Math.floor(endS / step) }, (_, i) => (i + 1) * step)
  const isIn = window !== undefined && writtenS >= window.lowS && writtenS <= window.highS
  const middle = 10
  return (
    <svg
      viewBox={`0 0 ${width} ${HEIGHT}`}
      role="img"
      aria-label={label}
      className="w-full max-w-[30rem] overflow-visible"
    >
      <title>{label}</title>
      {window && (
        <g>
          <rect
            x={x(window.lowS)}
            y={1}
            width={Math.max(2, x(window.highS) - x(window.lowS))}
            height={18}
            fill="var(--band)"
          />
          <path
            d={`M${x(window.lowS)} 0V20${isOpenEnded ? '' : `M${x(window.highS)} 0V20`}`}
            stroke="var(--standard)"
            strokeWidth={1.4}
          />
        </g>
      )}
      <path d={`M0 ${middle}H${width}`} stroke="var(--hair)" />
      {ticks.map((t) => (
        <g key={t}>
          <path d={`M${x(t)} ${middle - 2}v4`} stroke="var(--hair)" />
          <text x={x(t)} y={HEIGHT - 1} fontSize={9} textAnchor="middle" fill="var(--soft)">
            {t} s
          </text>
        </g>
      ))}
      {solvedS !== undefined && (
        <circle cx={x(solvedS)} cy={middle} r={4.5} fill="var(--paper)" stroke="var(--ink)" strokeWidth={1.6} />
      )}
      <path
        d={`M${x(writtenS)} 1V19`}
        stroke={isIn ? 'var(--ink)' : 'var(--stop)'}
        strokeWidth={3}
        data-written={isIn ? 'in' : 'out'}
      />
    </svg>
  )
}
