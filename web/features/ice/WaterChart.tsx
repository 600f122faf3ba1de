import { dayText } from '@conch/core/calendar'
import { predictTrial, type StationFigures, type Trial } from '@conch/core/calibration'
import { isExcluded } from '@conch/core/trials'
import { lazy, Suspense, useMemo } from 'react'
import { ErrorBoundary } from '../../ui/ErrorBoundary.tsx'
import { type MeasuredIce, per100G, waterOf } from './trialWater.ts'

const SecondsChart = lazy(() => import('../../graphics/SecondsChart.tsx'))

/** Water against seconds: what the figures say, and the trials. */
export function WaterChart({
  trials,
  figures,
  measuredIce,
  isNew,
  hasStanding,
}: {
  trials: Trial[]
  figures: StationFigures
  measuredIce: MeasuredIce
  isNew: (t: Trial) => boolean
  hasStanding: boolean
}) {
  const last = trials.at(-1)
  const lines = useMemo(() => {
    if (!last) return []
    const endS = Math.max(...trials.map((t) => t.document.durationS)) * 1.25
    const times = Array.from({ length: 30 }, (_, i) => 0.3 + ((endS - 0.3) * i) / 29)
    return [
      {
        name: hasStanding ? 'as calibrated' : 'as shipped',
        points: times.flatMap((s): [number, number][] => {
          const p = predictTrial({ ...last.document, durationS: s }, figures, measuredIce)
          return p ? [[s, per100G(p.addedG, last)]] : []
        }),
      },
    ]
  }, [trials, last, figures, measuredIce, hasStanding])
  // Makings differ in size and ice: a dot stands off the line by what its trial was off its own making.
  const dots = trials.flatMap((t) => {
    const water = waterOf(t, figures, measuredIce)
    const { durationS } = t.document
    const like = last && predictTrial({ ...last.document, durationS }, figures, measuredIce)
    if (!water || !last || !like) return []
    return {
      x: durationS,
      y: per100G(like.addedG, last) + per100G(water.offG, t),
      name: `trial ${t.id}, ${dayText(t.on)}`,
      isHollow: isExcluded(t),
      isNew: isNew(t),
    }
  })
  return (
    <figure>
      <ErrorBoundary>
        <Suspense fallback={<div className="flex h-[230px] items-center text-soft">Drawing …</div>}>
          <SecondsChart
            label={`Water added against seconds: ${dots.map((d) => `${d.name}: ${d.y.toFixed(0)} g after ${d.x} s`).join('; ')}`}
            xLabel="seconds"
            yLabel="water, g for 100 g of liquid"
            lines={lines}
            dots={dots}
            from={0}
          />
        </Suspense>
      </ErrorBoundary>
      <figcaption className="caption">
        The line: a making like the last trial. Each dot stands off it by what that trial was off its own making.
        Diamonds: newer than the calibration; hollow: left out.
      </figcaption>
    </figure>
  )
}
