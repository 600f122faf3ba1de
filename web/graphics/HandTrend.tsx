interface Point {
  /** Under the first and the last of them: the day. */
  label: string
  value: number
  low: number
  high: number
}

const WIDTH = 360
const HEIGHT = 104
const TOP = 8
const FOOT = 24
const LEFT = 52
/** A hand that is better than this looks as good as it is, in %. */
const LEAST_PCT = 5

/**
 * How far off a hand poured, sitting by sitting, with where that lies in nine of ten: what it should be is the line.
 * @param points in %, the oldest first
 */
export function HandTrend({ points }: { points: readonly Point[] }) {
  const most = Math.max(LEAST_PCT, ...points.flatMap(({ low, high }) => [Math.abs(low), Math.abs(high)]))
  const middle = TOP + (HEIGHT - TOP - FOOT) / 2
  const y = (pct: number) => middle - (pct / most) * ((HEIGHT - TOP - FOOT) / 2)
  const step = (WIDTH - LEFT - 24) / Math.max(1, points.length - 1)
  const x = (i: number) => LEFT + 12 + i * step
  const [first, last] = [points[0], points.at(-1)]
  const texts = { fontSize: 13, fill: 'var(--soft)' }
  return (
    <svg viewBox={`0 0 ${WIDTH} ${HEIGHT}`} className="mt-1 w-full max-w-md" aria-hidden="true" data-mark="hand-trend">
      <path d={`M${LEFT} ${middle}H${WIDTH}`} stroke="var(--standard)" strokeWidth={1.5} />
      {[most, -most].map((pct) => (
        <g key={pct}>
          <path d={`M${LEFT} ${y(pct)}H${WIDTH}`} stroke="var(--hair)" strokeDasharray="2 4" />
          <text {...texts} x={LEFT - 6} y={y(pct) + 4} textAnchor="end">
            {pct > 0 ? '+' : '−'}
            {Math.round(most)} %
          </text>
        </g>
      ))}
      <text {...texts} x={LEFT - 6} y={middle + 4} textAnchor="end">
        right
      </text>
      {points.map(({ value, low, high }, i) => (
        <g key={i} stroke="var(--ink)" fill="var(--ink)">
          <path d={`M${x(i)} ${y(low)}V${y(high)}`} strokeWidth={2} />
          <circle cx={x(i)} cy={y(value)} r={4.5} stroke="none" />
        </g>
      ))}
      {first && (
        <text {...texts} x={x(0)} y={HEIGHT - 6} textAnchor="middle">
          {first.label}
        </text>
      )}
      {last && points.length > 1 && last.label !== first?.label && (
        <text {...texts} x={x(points.length - 1)} y={HEIGHT - 6} textAnchor={points.length > 2 ? 'end' : 'middle'}>
          {last.label}
        </text>
      )}
    </svg>
  )
}
