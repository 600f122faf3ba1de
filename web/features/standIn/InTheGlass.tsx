import { type DrinkDocument, MEASURE_NAMES, MEASURES, type MeasureName, standingOf } from '@conch/core/drink'
import type { StandInEffect, StandInEffectResult } from '@conch/core/standin'
import { useHouse } from '../../app/house.tsx'
import { bareMeasureText } from '../../graphics/format.ts'

const SHOWN: MeasureName[] = ['strengthPct', 'sweetGPer100Ml', 'sourGPer100Ml', 'dilutionPct', 'volumeMl']

/** A hand and a clock, s. */
const HAND_S = 0.25

/**
 * The seconds to write down, as a hand can keep them; undefined where they stay, cannot help, or bring the strength back
 * only by taking more out of its standard than they bring in.
 */
export function correctedSeconds({ document, after, corrected, durationS }: StandInEffect): number | undefined {
  if (corrected.outcome !== 'reached' || durationS === undefined) return undefined
  const outside = (p: typeof after) =>
    MEASURE_NAMES.filter((m) => ['below', 'above'].includes(standingOf(p[m], document.standard[m]))).length
  if (outside(corrected.predictions) > outside(after)) return undefined
  const seconds = Math.max(HAND_S, Math.round(corrected.durationS / HAND_S) * HAND_S)
  return Math.abs(seconds - durationS) < HAND_S / 2 ? undefined : seconds
}

/** What a stand-in does to the drink at this well, and the seconds that bring its strength back. */
export function InTheGlass({
  document,
  result,
  seconds,
}: {
  document: DrinkDocument
  result: StandInEffectResult
  seconds: number | undefined
}) {
  const { well } = useHouse()
  if (!result.ok) return <p className="mt-3 text-sm text-stop">{result.reason}</p>
  const { before, after, corrected, durationS } = result.effect
  const then = corrected.outcome === 'reached' ? corrected.predictions : undefined
  const isMoved = seconds !== undefined && corrected.outcome === 'reached'
  return (
    <section aria-label="In the glass" className="mt-4 border-t border-hair pt-2">
      <h2 className="text-base">
        In {document.name}, at the {well.name}
      </h2>
      <table className="w-full text-right">
        <thead>
          <tr className="caption">
            <th />
            <th className="font-normal">as it was</th>
            <th className="font-normal">with this</th>
            {isMoved && <th className="font-normal">and {seconds} s</th>}
          </tr>
        </thead>
        <tbody>
          {SHOWN.map((m) => {
            const tone = (p: typeof after) => {
              const standing = standingOf(p[m], document.standard[m])
              return standing === 'below' || standing === 'above' ? 'font-semibold text-stop' : ''
            }
            const cell = (p: typeof after | undefined) => {
              const value = p?.[m]?.value
              return value === undefined ? '·' : bareMeasureText(m, value)
            }
            return (
              <tr key={m} className="border-b border-hair/60" data-measure={m}>
                <th scope="row" className="text-left text-sm font-normal text-soft">
                  {MEASURES[m].label}, {MEASURES[m].unit}
                </th>
                <td>{cell(before)}</td>
                <td className={tone(after)}>{cell(after)}</td>
                {isMoved && then && <td className={tone(then)}>{cell(then)}</td>}
              </tr>
            )
          })}
        </tbody>
      </table>
      <p className="mt-1 text-sm">
        {isMoved && durationS !== undefined && (
          <>
            {durationS.toFixed(1)} s → <b className="font-semibold">{corrected.durationS.toFixed(1)} s</b> holds its
            strength.
          </>
        )}
        {corrected.outcome === 'reached' && !isMoved && 'The seconds stay as they are.'}
        {corrected.outcome === 'cannotBeReached' && (
          <span className="text-mind">
            ▲ No seconds bring the strength back: from {corrected.fewestS} to {corrected.mostS.toFixed(0)} s it goes
            from {corrected.atFewest.toFixed(1)} to {corrected.atMost.toFixed(1)} %. Pour more or less of it.
          </span>
        )}
      </p>
    </section>
  )
}
