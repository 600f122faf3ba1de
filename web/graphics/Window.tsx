import { type Band, MEASURES, type MeasureName, type Predicted, standingOf } from '@conch/core/drink'
import { measureText } from './format.ts'

interface WindowProps {
  measure: MeasureName
  predicted: Predicted | undefined
  band: Band | undefined
  /** What it was before, as a hollow mark. */
  ghost?: Predicted | undefined
  width?: number
  height?: number
  /** It stands in no line that leads somewhere: keys reach it by itself. */
  isAlone?: boolean
}

const STANDING_WORDS = {
  inside: 'inside the standard',
  edge: 'only just inside the standard',
  below: 'below the standard',
  above: 'above the standard',
  open: 'no standard set',
}

/**
 * The window: a standard as a band, a prediction as a mark with its uncertainty. The same small
 * picture in rows, margins and print. Beyond the scale the mark becomes an arrow at the edge.
 */
export function Window({ measure, predicted, band, ghost, width = 132, height = 18, isAlone = false }: WindowProps) {
  const { tolerance } = MEASURES[measure]
  const centre = band ? (band.low + band.high) / 2 : (predicted?.value ?? 0)
  const half = band ? Math.max((band.high - band.low) * 1.1, tolerance * 0.4) : tolerance * 2.2
  const low = centre - half
  const x = (value: number) => ((value - low) / (2 * half)) * width
  const inScale = (value: number) => Math.min(width - 1, Math.max(1, x(value)))
  const middle = height / 2
  const standing = standingOf(predicted, band)
  const isOff = standing === 'below' || standing === 'above'
  const title = predicted
    ? `${MEASURES[measure].label} ${measureText(measure, predicted.value)}, ${STANDING_WORDS[standing]}${band ? ` (${measureText(measure, band.low)} to ${measureText(measure, band.high)})` : ''}`
    : `${MEASURES[measure].label}: not known`
  const markX = predicted && inScale(predicted.value)
  const isBeyond = predicted !== undefined && (x(predicted.value) < 0 || x(predicted.value) > width)
  return (
    <svg
      width={width}
      height={height}
      role="img"
      data-mark="window"
      aria-label={title}
      {...(isAlone ? { tabIndex: 0 } : {})}
      className="shrink-0 overflow-visible"
      data-standing={standing}
    >
      <rect width={width} height={height} fill="transparent" />
      <line x1={0} x2={width} y1={middle} y2={middle} stroke="var(--hair)" />
      {band && (
        <g>
          <rect
            x={x(band.low)}
            y={2}
            width={Math.max(1, x(band.high) - x(band.low))}
            height={height - 4}
            fill="var(--band)"
          />
          <path
            d={`M${x(band.low)} 0.5V${height - 0.5}M${x(band.high)} 0.5V${height - 0.5}`}
            stroke="var(--standard)"
            strokeWidth={1.2}
          />
        </g>
      )}
      {ghost && (
        <circle
          data-mark="ghost"
          data-says={`before: ${measureText(measure, ghost.value)}`}
          cx={inScale(ghost.value)}
          cy={middle}
          r={height > 12 ? 3.4 : 2.4}
          fill="none"
          stroke="var(--soft)"
          strokeDasharray="1.5 1.5"
        />
      )}
      {predicted && markX !== undefined && (
        <g stroke={isOff ? 'var(--stop)' : 'var(--ink)'} fill={isOff ? 'var(--stop)' : 'var(--ink)'}>
          <line x1={inScale(predicted.low)} x2={inScale(predicted.high)} y1={middle} y2={middle} strokeWidth={1.6} />
          {isBeyond ? (
            <path
              d={x(predicted.value) < 0 ? `M1 ${middle}l6 -5v10z` : `M${width - 1} ${middle}l-6 -5v10z`}
              stroke="none"
            />
          ) : (
            <path d={`M${markX} ${middle - height * 0.42}V${middle + height * 0.42}`} strokeWidth={2.6} />
          )}
        </g>
      )}
    </svg>
  )
}
