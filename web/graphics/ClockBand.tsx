interface ClockBandProps {
  window: { lowS: number; highS: number; isOpenEnded: boolean } | undefined
  /** At which it is stopped. */
  targetS: number
  workedS: number
  endS: number
  /** On a phone the same letters are read on a shorter band, px. */
  widthPx?: number
}

const HEIGHT = 74
/** Nearer to each other than this two figures would run into one. */
const APART = 70
const BAR = 44

/** The seconds of a chill as a band that is read from two metres: too soon, in the window, too long; and where the clock is. */
export function ClockBand({ window, targetS, workedS, endS, widthPx: width = 640 }: ClockBandProps) {
  const x = (s: number) => Math.max(0, Math.min(1, s / endS)) * width
  const at = x(workedS)
  const low = window ? x(window.lowS) : undefined
  const high = window && !window.isOpenEnded ? x(window.highS) : width
  const isNear = low !== undefined && high - low < APART
  return (
    <svg viewBox={`-4 0 ${width + 8} ${HEIGHT}`} className="w-full" aria-hidden="true">
      <rect x={0} y={0} width={width} height={BAR} fill="var(--shallow)" />
      {low !== undefined && (
        <>
          <rect x={low} y={0} width={Math.max(2, high - low)} height={BAR} fill="var(--band)" />
          <path
            d={`M${low} 0V${BAR}${window?.isOpenEnded ? '' : `M${high} 0V${BAR}`}`}
            stroke="var(--standard)"
            strokeWidth={3}
          />
          <text x={low} y={HEIGHT - 6} fontSize={20} fill="var(--standard)" textAnchor={isNear ? 'end' : 'middle'}>
            {Number(window?.lowS.toFixed(1))} s
          </text>
          {!window?.isOpenEnded && (
            <text x={high} y={HEIGHT - 6} fontSize={20} fill="var(--standard)" textAnchor={isNear ? 'start' : 'middle'}>
              {Number(window?.highS.toFixed(1))} s
            </text>
          )}
        </>
      )}
      <path d={`M${x(targetS)} -2V${BAR + 6}`} stroke="var(--ink)" strokeWidth={2} strokeDasharray="5 4" />
      <rect x={0} y={BAR / 2 - 5} width={at} height={10} fill="var(--ink)" opacity={0.5} />
      <path d={`M${at} 0V${BAR}`} stroke="var(--ink)" strokeWidth={6} />
    </svg>
  )
}
