import {
  DISAGREE_STEPS,
  MOST_ON_AXIS,
  STYLE_AXES,
  STYLE_AXIS_NAMES,
  type Style,
  type StyleProfile,
} from '@conch/core/palate'

/** One thing among those compared: a shape of its own, so that colour is not needed. */
export interface StyleSeries {
  label: string
  profile: StyleProfile
}

/** How wide the target is drawn around its place, in steps. */
const TARGET_HALF = 0.5
const SHAPES = [
  <circle key="dot" cx="7" cy="7" r="4.6" fill="var(--ink)" />,
  <rect key="square" x="3" y="3" width="8" height="8" fill="var(--paper)" stroke="var(--ink)" strokeWidth="1.8" />,
  <path key="up" d="M7 2l5 9H2z" fill="var(--ink)" />,
  <path
    key="diamond"
    d="M7 1.500l5 5.500-5 5.500-5-5.500z"
    fill="var(--paper)"
    stroke="var(--ink)"
    strokeWidth="1.8"
  />,
  <path key="cross" d="M2.500 2.500l9 9m0-9l-9 9" fill="none" stroke="var(--ink)" strokeWidth="2.200" />,
  <path key="down" d="M7 12L2 3h10z" fill="var(--paper)" stroke="var(--ink)" strokeWidth="1.600" />,
] as const

/** The shape of the n-th thing. */
export function SeriesMark({ index }: { index: number }) {
  return (
    <svg width="14" height="14" viewBox="0 0 14 14" aria-hidden="true" className="inline-block shrink-0">
      {SHAPES[index % SHAPES.length]}
    </svg>
  )
}

const at = (place: number) => `${(100 * place) / MOST_ON_AXIS}%`

/**
 * Where things lie on the lines of style: a mark each, how far the tasters are apart as a bar through
 * it, and the target as a band. Lines that nobody placed anything on are left out.
 */
export function StyleLines({
  series,
  target = {},
  hasLegend = series.length > 1,
}: {
  series: readonly StyleSeries[]
  target?: Style | undefined
  hasLegend?: boolean
}) {
  const shown = STYLE_AXIS_NAMES.filter((a) => target[a] !== undefined || series.some((s) => s.profile[a]))
  if (shown.length === 0) return <p className="text-sm text-soft">Nobody has placed it on a line yet.</p>
  const hasSpread = series.some((s) => shown.some((a) => (s.profile[a]?.high ?? 0) > (s.profile[a]?.low ?? 0)))
  const hasDistances = series.length === 1 && Object.keys(target).length > 0
  const disagree = series.some((s) => shown.some((a) => isApart(s.profile, a)))
  return (
    <figure>
      {hasLegend && (
        <ul className="mb-1 flex flex-wrap gap-x-4 gap-y-0.5 text-sm">
          {series.map((s, i) => (
            <li key={s.label} className="flex min-w-0 items-center gap-1.5">
              <SeriesMark index={i} /> <span className="truncate">{s.label}</span>
            </li>
          ))}
        </ul>
      )}
      <dl>
        {shown.map((axis) => {
          const { label, low, high } = STYLE_AXES[axis]
          const wanted = target[axis]
          const only = series.length === 1 ? series[0]?.profile[axis]?.value : undefined
          const offBy = wanted === undefined || only === undefined ? undefined : only - wanted
          return (
            <div
              key={axis}
              data-axis={axis}
              className={`grid items-center gap-x-3 py-[3px] ${hasDistances ? 'grid-cols-[5.8rem_minmax(0,1fr)_2.2rem]' : 'grid-cols-[5.8rem_minmax(0,1fr)]'}`}
            >
              <dt className="text-right text-sm leading-none text-soft">{label}</dt>
              <dd>
                <div className="relative mx-2 h-4">
                  <div className="absolute inset-x-0 top-1/2 border-t border-hair" />
                  {wanted !== undefined && (
                    <div
                      className="absolute inset-y-0 border-x border-standard bg-band"
                      style={{
                        left: at(Math.max(0, wanted - TARGET_HALF)),
                        right: `calc(100% - ${at(Math.min(MOST_ON_AXIS, wanted + TARGET_HALF))})`,
                      }}
                    />
                  )}
                  {series.map((s, i) => {
                    const reading = s.profile[axis]
                    if (!reading) return null
                    return (
                      <span key={s.label}>
                        {reading.high > reading.low && (
                          <span
                            className={`absolute top-1/2 h-0 border-t-[3px] ${isApart(s.profile, axis) ? 'border-stop' : 'border-soft/60'}`}
                            style={{ left: at(reading.low), width: at(reading.high - reading.low), marginTop: -1.5 }}
                          />
                        )}
                        <span
                          className="absolute top-1/2 -mt-[7px] -ml-[7px] h-[14px] leading-none"
                          style={{ left: at(reading.value) }}
                        >
                          <SeriesMark index={i} />
                        </span>
                      </span>
                    )
                  })}
                </div>
                <p className="sr-only">
                  {[
                    ...series.flatMap((s) => {
                      const r = s.profile[axis]
                      return r ? [`${s.label}: ${r.value.toFixed(1)} of ${MOST_ON_AXIS}`] : []
                    }),
                    wanted === undefined ? '' : `wanted: ${wanted}`,
                    `from ${low} to ${high}`,
                  ]
                    .filter(Boolean)
                    .join('; ')}
                </p>
              </dd>
              {hasDistances && (
                <dd
                  className={`text-right text-sm ${offBy !== undefined && Math.abs(offBy) > 1.5 ? 'font-semibold text-mind' : 'text-soft'}`}
                >
                  {offBy === undefined ? '' : stepsText(offBy)}
                </dd>
              )}
            </div>
          )
        })}
      </dl>
      <figcaption className="caption mt-1">
        {[
          Object.keys(target).length > 0 &&
            `band: what is wanted${hasDistances ? ', and how many of its ten steps away' : ''}`,
          hasSpread && 'bar: how far the tasters are apart',
        ]
          .filter(Boolean)
          .join(' · ')}
        {disagree && (
          <span className="text-stop">, {DISAGREE_STEPS} steps or more where it is red: taste it again together</span>
        )}
      </figcaption>
    </figure>
  )
}

/** A distance in steps, signed: "+0.6". */
export const stepsText = (steps: number) =>
  Math.abs(steps) < 0.05 ? '0' : `${steps < 0 ? '−' : '+'}${Math.abs(steps).toFixed(1)}`

function isApart(profile: StyleProfile, axis: keyof StyleProfile): boolean {
  const r = profile[axis]
  return r !== undefined && r.high - r.low >= DISAGREE_STEPS
}
