import type { DrinkDocument, DrinkResult } from '@conch/core/drink'
import type { HouseBook, Well } from '@conch/core/house'
import { lazy, memo, Suspense, useState } from 'react'
import { ErrorBoundary } from '../../ui/ErrorBoundary.tsx'
import { useChillCurve } from '../../workers/compute.ts'
import { stageAt } from './edits.ts'

/** Charts are heavy: fetched when one is drawn. */
const LineChart = lazy(() => import('../../graphics/LineChart.tsx'))

interface CurvePanelProps {
  document: DrinkDocument
  book: HouseBook
  well: Well
  result: DrinkResult
  /** Which version it is of. */
  shown: string
}

/** Dilution and temperature against seconds on the station, and against minutes in the guest's hand. */
export const CurvePanel = memo(function CurvePanel({ document, book, well, result, shown }: CurvePanelProps) {
  const [which, setWhich] = useState<'station' | 'hand'>('station')
  const stage = document.stages[0]
  const durationS = stage ? stageAt(stage, well.slug).durationS : 0
  // To twice the seconds, in steps that do not jump with every key stroke.
  const endS = Math.min(120, Math.max(6, Math.ceil(durationS / 5) * 10))
  const curve = useChillCurve(document, book, well.slug, endS, shown)
  const tab = (value: typeof which, label: string) => (
    <button
      type="button"
      aria-pressed={which === value}
      onClick={() => setWhich(value)}
      className={`px-2 py-1 text-sm max-sm:min-h-11 ${which === value ? 'border-b-2 border-ink' : 'text-soft'}`}
    >
      {label}
    </button>
  )
  const glass = result.glass
  // The standard is of the glass at hand-over; the station's share of it is what the curve can be held to.
  const inGlassPct =
    (result.predictions.dilutionPct?.value ?? 0) - 100 * (result.stages[0]?.atEnd.dilutionFraction ?? 0)
  const standard = document.standard.dilutionPct
  const band = standard && {
    low: Math.max(0, standard.low - inGlassPct),
    high: Math.max(0, standard.high - inGlassPct),
  }
  const volumeMl = result.beforeIce.volumeMl
  const beforeG = result.stages.reduce((sum, s) => sum + s.atEnd.meltG + s.atEnd.surfaceWaterG, 0)
  return (
    <section aria-label="Curves" className="mt-3 border-t border-hair pt-1">
      <div className="flex gap-2">
        {tab('station', `seconds at the ${well.name}`)}
        {glass && tab('hand', 'minutes in the hand')}
      </div>
      <ErrorBoundary>
        {/* The room of a chart and its words, while there is none yet. */}
        <div className="min-h-[212px]">
          <Suspense fallback={<p className="late pt-20 text-soft">Drawing …</p>}>
            {which === 'station' && curve && curve.length > 0 && (
              <LineChart
                label="Dilution and temperature against seconds"
                xLabel="seconds"
                left={{ name: 'dilution', unit: '%', points: curve.map((p) => [p.timeS, p.dilutionPct]) }}
                right={{ name: 'temperature', unit: '°C', points: curve.map((p) => [p.timeS, p.temperatureC]) }}
                band={band}
                bandNote={
                  inGlassPct >= 0.5
                    ? `the standard, less the ${inGlassPct.toFixed(0)} % that melts in the glass`
                    : 'the standard'
                }
                mark={durationS}
                markLabel={`${durationS} s`}
              />
            )}
            {which === 'hand' && glass && (
              <LineChart
                label="Dilution and temperature against minutes in the hand"
                xLabel="minutes"
                left={{
                  name: 'dilution',
                  unit: '%',
                  points: glass.samples.map((s) => [s.timeS / 60, (100 * (beforeG + s.addedWaterG)) / volumeMl]),
                }}
                right={{
                  name: 'temperature',
                  unit: '°C',
                  points: glass.samples.map((s) => [s.timeS / 60, s.temperatureC]),
                }}
                mark={0}
                markLabel="hand-over"
              />
            )}
            {which === 'station' && curve?.length === 0 && (
              <p className="p-4 text-soft">Nothing is chilled: there is no curve.</p>
            )}
          </Suspense>
        </div>
      </ErrorBoundary>
    </section>
  )
})
