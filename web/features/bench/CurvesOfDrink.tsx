import { dayText } from '@conch/core/calendar'
import { predictTrial, trialIceOf } from '@conch/core/calibration'
import { METHODS, type Method } from '@conch/core/cold'
import type { DrinkDocument, MeasureName } from '@conch/core/drink'
import type { HouseBook, Well } from '@conch/core/house'
import { volumeMlOf } from '@conch/core/liquid'
import { withMethod } from '@conch/core/means'
import { keysOf } from '@conch/core/schema/keysOf'
import { figuresCountedOn, isExcluded } from '@conch/core/trials'
import { useQuery } from '@tanstack/react-query'
import { lazy, Suspense, useMemo, useState } from 'react'
import { ErrorBoundary } from '../../ui/ErrorBoundary.tsx'
import { type Curve, useCurve, useHand } from '../../workers/bench.ts'
import { trialsQuery } from '../ice/index.ts'

const SecondsChart = lazy(() => import('../../graphics/SecondsChart.tsx'))

const SHOWN = {
  dilutionPct: 'dilution, %',
  strengthPct: 'strength, %',
  temperatureC: 'temperature, °C',
} as const satisfies Partial<Record<MeasureName, string>>
type Shown = keyof typeof SHOWN

/** Dilution, strength or temperature at hand-over against the seconds, or in the hand: another well or method over it. */
export function CurvesOfDrink({
  slug,
  document,
  book,
  well,
  window,
}: {
  slug: string
  document: DrinkDocument
  book: HouseBook
  well: Well
  window: { lowS: number; highS: number } | undefined
}) {
  const [shown, setShown] = useState<Shown>('dilutionPct')
  const [over, setOver] = useState<'seconds' | 'minutes'>('seconds')
  const [beside, setBeside] = useState('')
  const stage = document.stages[0]
  const own = stage?.method
  const writtenS = stage?.byWell?.[well.slug]?.durationS ?? stage?.durationS ?? (own ? METHODS[own].usual.durationS : 0)
  const endS = Math.min(120, Math.max(6, Math.ceil(Math.max(writtenS * 2, (window?.highS ?? 0) * 1.2))))
  // "well:courtyard" or "method:stir".
  const [kind, what] = beside.split(':') as [string, string | undefined]
  const otherWell = kind === 'well' ? (what ?? well.slug) : well.slug
  const otherDocument = useMemo(
    () => (kind === 'method' ? withMethod(document, what as Method, well) : kind === 'well' ? document : undefined),
    [kind, what, document, well],
  )
  const first = useCurve(book, document, well.slug, endS)
  const second = useCurve(book, otherDocument, otherWell, endS)
  const firstHand = useHand(book, over === 'minutes' ? document : undefined, well.slug)
  const secondHand = useHand(book, over === 'minutes' ? otherDocument : undefined, otherWell)
  const otherName =
    kind === 'well'
      ? (book.wells.find((w) => w.slug === what)?.name ?? '')
      : kind === 'method'
        ? METHODS[what as Method].label
        : ''
  const lines = useMemo(() => {
    const ofCurve = (c: typeof first) =>
      (c ?? []).map((p): [number, number] => [p.durationS, p.predictions[shown]?.value ?? Number.NaN])
    const ofHand = (h: typeof firstHand) => (h ?? []).map((p): [number, number] => [p.minutes, p[shown]])
    const a = over === 'seconds' ? ofCurve(first) : ofHand(firstHand)
    const b = over === 'seconds' ? ofCurve(second) : ofHand(secondHand)
    return [{ name: well.name, points: a }, ...(otherDocument && b.length > 0 ? [{ name: otherName, points: b }] : [])]
  }, [first, second, firstHand, secondHand, over, shown, well.name, otherDocument, otherName])
  const dots = useTrialDots(slug, book, well, shown === 'dilutionPct' && over === 'seconds' ? first : undefined)
  if (!stage) return null
  const tab = (isOn: boolean, label: string, onClick: () => void) => (
    <button
      key={label}
      type="button"
      aria-pressed={isOn}
      onClick={onClick}
      className={`px-2 py-1 text-sm max-sm:min-h-11 ${isOn ? 'border-b-2 border-ink' : 'text-soft'}`}
    >
      {label}
    </button>
  )
  return (
    <section aria-label="Curves">
      <div className="mb-2 flex flex-wrap items-baseline">
        {keysOf(SHOWN).map((m) => tab(shown === m, SHOWN[m].split(',')[0] as string, () => setShown(m)))}
        <span className="mx-1 text-hair">|</span>
        {tab(over === 'seconds', 'seconds', () => setOver('seconds'))}
        {tab(over === 'minutes', 'in the hand', () => setOver('minutes'))}
        <select
          aria-label="Lay over it"
          className="inplace ml-auto text-sm"
          value={beside}
          onChange={(e) => setBeside(e.target.value)}
        >
          <option value="">lay over it …</option>
          {book.wells
            .filter((w) => w.slug !== well.slug)
            .map((w) => (
              <option key={w.slug} value={`well:${w.slug}`}>
                the {w.name}
              </option>
            ))}
          {keysOf(METHODS)
            .filter((m) => m !== own)
            .map((m) => (
              <option key={m} value={`method:${m}`}>
                {METHODS[m].label}
              </option>
            ))}
        </select>
      </div>
      <ErrorBoundary>
        <Suspense fallback={<div className="flex h-[230px] items-center text-soft">Drawing …</div>}>
          {lines[0] && lines[0].points.length > 0 && (
            <SecondsChart
              label={`${SHOWN[shown]} at hand-over against ${over}`}
              xLabel={over === 'seconds' ? 'seconds' : 'minutes in the hand'}
              yLabel={SHOWN[shown]}
              lines={lines}
              dots={dots}
              band={over === 'seconds' ? document.standard[shown] : undefined}
              window={over === 'seconds' ? window : undefined}
              mark={over === 'seconds' ? { x: writtenS, label: `${writtenS} s` } : undefined}
            />
          )}
        </Suspense>
      </ErrorBoundary>
      <p className="caption">
        {over === 'seconds'
          ? `In the glass at hand-over. Across: the standard; upright: the seconds that hold all of it.${dots.length > 0 ? ' Dots: its trials here, as far off the line as they were off what was expected.' : ''}`
          : `From hand-over at ${well.roomTemperatureC} °C.`}
      </p>
    </section>
  )
}

/** Trials of this drink at this well, standing off the curve by what each was off its own making. */
function useTrialDots(slug: string, book: HouseBook, well: Well, curve: Curve | undefined) {
  const all = useQuery(trialsQuery).data?.trials
  return useMemo(() => {
    const mine = (all ?? []).filter((t) => t.document.drink === slug && t.well === well.slug)
    return mine.flatMap((t) => {
      const { durationS, liquid, afterG } = t.document
      const figures = figuresCountedOn(book, { well: t.well, station: t.station, ice: trialIceOf(t.document) })
      const after = curve?.findIndex((p) => p.durationS >= durationS) ?? -1
      const at = curve?.[Math.max(0, after)]?.predictions.dilutionPct?.value
      const expected = figures && predictTrial(t.document, figures, well.ice)
      if (!expected || after < 0 || at === undefined) return []
      const off = (100 * (afterG - expected.afterG)) / volumeMlOf(liquid)
      return [{ x: durationS, y: at + off, name: `trial ${t.id}, ${dayText(t.on)}`, isHollow: isExcluded(t) }]
    })
  }, [all, slug, book, well, curve])
}
