import { mlText } from './format.ts'

interface TinLevelProps {
  /** Liquid before this pour and after it, ml. */
  fromMl: number
  toMl: number
  /** With how much, ice and all, the vessel works; undefined: nobody knows it, and the scale follows the liquid. */
  holdsMl: number | undefined
  height?: number
}

const WIDTH = 150
const TOP_HALF = 66
const FOOT_HALF = 46
const RIM = 14

/** The vessel cut through: what is in it, what this pour adds, and where the ice will bring it at most. */
export function TinLevel({ fromMl, toMl, holdsMl, height = 230 }: TinLevelProps) {
  const bottom = height - 8
  const fullMl = Math.max(holdsMl ?? 0, toMl * 1.25, 120)
  const yOf = (ml: number) => bottom - (Math.min(ml, fullMl) / fullMl) * (bottom - RIM)
  const halfAt = (y: number) => FOOT_HALF + ((bottom - y) / (bottom - RIM)) * (TOP_HALF - FOOT_HALF)
  const middle = WIDTH / 2
  const slab = (lowMl: number, highMl: number) => {
    const [low, high] = [yOf(lowMl), yOf(highMl)]
    return `M${middle - halfAt(low)} ${low}L${middle - halfAt(high)} ${high}H${middle + halfAt(high)}L${middle + halfAt(low)} ${low}Z`
  }
  const label = `${mlText(toMl)} in it after this${fromMl > 0 ? `, ${mlText(fromMl)} before` : ''}`
  return (
    <svg viewBox={`0 0 ${WIDTH + 74} ${height}`} role="img" aria-label={label} className="h-full w-full" data-tin>
      <title>{label}</title>
      {fromMl > 0 && <path d={slab(0, fromMl)} fill="var(--liquid)" opacity={0.55} />}
      <path d={slab(fromMl, toMl)} fill="var(--liquid)" />
      <path d={`M${middle - halfAt(yOf(toMl))} ${yOf(toMl)}H${WIDTH + 8}`} stroke="var(--ink)" strokeWidth={1.5} />
      <text x={WIDTH + 12} y={yOf(toMl) + 5} fontSize={17} fill="var(--ink)">
        {mlText(toMl)}
      </text>
      {holdsMl !== undefined && (
        <>
          <path
            d={`M${middle - halfAt(yOf(holdsMl))} ${yOf(holdsMl)}H${middle + halfAt(yOf(holdsMl))}`}
            stroke="var(--standard)"
            strokeWidth={1.5}
            strokeDasharray="5 4"
          />
          <text x={WIDTH + 2} y={yOf(holdsMl) + 5} fontSize={13} fill="var(--soft)">
            with ice
          </text>
        </>
      )}
      <path
        d={`M${middle - halfAt(RIM - 8)} ${RIM - 8}L${middle - FOOT_HALF} ${bottom}H${middle + FOOT_HALF}L${middle + halfAt(RIM - 8)} ${RIM - 8}`}
        fill="none"
        stroke="var(--ink)"
        strokeWidth={3}
        strokeLinejoin="round"
      />
    </svg>
  )
}
